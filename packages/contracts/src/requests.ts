import { MATERIAL_FAMILIES, type MaterialFamily } from '@bathyscope/core/mass';
import { Type } from 'class-transformer';
import type { RecordChange, ShelfOrder } from './responses.ts';
import {
  MaxLength,
  ValidateIf,
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  isUUID,
  IsUUID,
  Length,
  Matches,
  Max,
  Min,
  ValidateBy,
} from 'class-validator';

/** A name that people give: not blank, on one line. */
const IsName = (what: string) =>
  applyAll(
    IsString({ message: `The name of a ${what} is text.` }),
    Length(1, 200, { message: `The name of a ${what} has between 1 and 200 characters.` }),
    Matches(/\S/, { message: `The name of a ${what} cannot be blank.` }),
    // eslint-disable-next-line no-control-regex
    Matches(/^[^\u0000-\u001f\u007f]*$/, {
      message: `The name of a ${what} is one line, without control characters.`,
    }),
  );

const applyAll =
  (...rules: PropertyDecorator[]): PropertyDecorator =>
  (target, key) =>
    rules.forEach((rule) => rule(target, key));

const SHELF_ORDERS: readonly ShelfOrder[] = ['newest', 'name', 'size'];
const SEARCH = 'What is searched for is a text of at most 200 characters.';
const TAGS = 'Tags are words of at most 40 characters, 12 of them at most.';

export class ListModelsRequest {
  @IsOptional()
  @Type(() => Number)
  @IsInt({ message: 'The limit is a whole number from 1 to 500.' })
  @Min(1, { message: 'The limit is a whole number from 1 to 500.' })
  @Max(500, { message: 'The limit is a whole number from 1 to 500.' })
  limit?: number;

  /** The last model of the page before. */
  @IsOptional()
  @IsUUID(undefined, { message: 'A page begins after a model, named by its identifier.' })
  after?: string;

  /** Words that the name, the file’s name or a tag holds. */
  @IsOptional()
  @IsString({ message: SEARCH })
  @MaxLength(200, { message: SEARCH })
  search?: string;

  @IsOptional()
  @IsIn(SHELF_ORDERS, { message: 'The shelf is ordered by newest, name or size.' })
  sort?: ShelfOrder;

  /** Only models that bear this tag. */
  @IsOptional()
  @IsString({ message: SEARCH })
  @MaxLength(200, { message: SEARCH })
  tag?: string;
}

const PATHS = 'Components are named by their paths, 50,000 at most.';

/** Which components are checked for clashes. */
export class AskClashCheckRequest {
  @IsName('check')
  about!: string;

  /** Of which each is checked with each; all of the model where absent. */
  @IsOptional()
  @IsArray({ message: PATHS })
  @ArrayMaxSize(50_000, { message: PATHS })
  @IsString({ each: true, message: PATHS })
  among?: string[];

  /** Only those are checked with all others. */
  @IsOptional()
  @IsArray({ message: PATHS })
  @ArrayMaxSize(50_000, { message: PATHS })
  @IsString({ each: true, message: PATHS })
  some?: string[];
}

/** What of a model may be changed: its name, its tags, or both. */
export class ChangeModelRequest {
  @ValidateIf(({ name, tags }: ChangeModelRequest) => name !== undefined || tags === undefined)
  @IsName('model')
  name?: string;

  @IsOptional()
  @IsArray({ message: TAGS })
  @ArrayMaxSize(12, { message: TAGS })
  @IsString({ each: true, message: TAGS })
  @MaxLength(40, { each: true, message: TAGS })
  tags?: string[];
}

/** Of which revision of the model something is said; of the newest where it is absent. */
class OfRevision {
  @IsOptional()
  @IsInt({ message: 'A revision is a number.' })
  @Min(1, { message: 'Revisions are numbered from 1.' })
  @Max(2 ** 31 - 1)
  revision?: number;
}

/** Which model a revision is compared with, instead of the one before it. */
export class LikenessRequest {
  @IsOptional()
  @IsUUID(undefined, { message: 'The model is named by its identifier.' })
  to?: string;
}

/** Which model was meant to be the next revision of another. */
export class AdoptModelRequest {
  @IsUUID(undefined, { message: 'The model is named by its identifier.' })
  model!: string;
}

/** A line about a revision. */
export class ChangeRevisionRequest {
  @IsString({ message: 'What is said about a revision is text.' })
  @MaxLength(500, { message: 'A line about a revision has at most 500 characters.' })
  note!: string;
}

/** A view-state document as the client keeps it; its parts are checked by core's `migrateViewState`. */
export class SaveViewStateRequest extends OfRevision {
  @IsObject({ message: 'A view state is an object.' })
  document!: Record<string, unknown>;
}

/** Settings of the interface, which checks what it knows of them. */
export class SaveSettingsRequest {
  @IsObject({ message: 'Settings are an object.' })
  values!: Record<string, unknown>;
}

const MOST_CHANGES = 500;
const isWhole = (v: unknown): v is number =>
  Number.isInteger(v) && (v as number) >= 0 && (v as number) <= 2 ** 31 - 1;
const isText = (v: unknown): v is string => typeof v === 'string' && v.length > 0 && v.length <= 100;

function isRecordChange(value: unknown): value is RecordChange {
  if (typeof value !== 'object' || value === null) return false;
  const { id, kind, version, document, position, deleted, match, madeOn } = value as Partial<RecordChange>;
  return (
    isUUID(id) &&
    isText(kind) &&
    isWhole(version) &&
    typeof document === 'object' &&
    document !== null &&
    !Array.isArray(document) &&
    Number.isFinite(position) &&
    typeof deleted === 'boolean' &&
    (match === null || isWhole(match)) &&
    (madeOn === undefined || (isWhole(madeOn) && madeOn >= 1))
  );
}

const IsRecordChanges = () =>
  ValidateBy({
    name: 'isRecordChanges',
    validator: {
      validate: (changes: unknown) =>
        Array.isArray(changes) &&
        changes.length <= MOST_CHANGES &&
        changes.every(isRecordChange) &&
        new Set(changes.map(({ id }) => id)).size === changes.length,
      defaultMessage: () =>
        `Changes are a list of at most ${MOST_CHANGES} records, each once: id, kind, version, document, position, deleted, in “match” the rev that it was made of (null for a new one), and where it was looked up anew in “madeOn” the revision.`,
    },
  });

export class ChangeRecordsRequest extends OfRevision {
  @IsRecordChanges()
  changes!: RecordChange[];
}

const WHOLE = 'The version of a record is a whole number.';

/** One record; what it was made of is said in the header If-Match. */
export class SaveRecordRequest {
  @IsString({ message: 'The kind of a record is a name.' })
  @Length(1, 100, { message: 'The kind of a record is a name.' })
  kind!: string;

  @IsInt({ message: WHOLE })
  @Min(0, { message: WHOLE })
  version!: number;

  @IsObject({ message: 'The document of a record is an object.' })
  document!: Record<string, unknown>;

  @IsOptional()
  @IsNumber({}, { message: 'The position of a record is a number.' })
  position?: number;
}

const FOLLOWED = 'Models are named by their identifiers, with commas between; at most 20.';

/** What is followed: jobs and models, and of these models their records. */
export class FollowEventsRequest {
  @IsOptional()
  @IsString({ message: FOLLOWED })
  @Matches(/^[0-9a-f-]{36}(,[0-9a-f-]{36}){0,19}$/i, { message: FOLLOWED })
  models?: string;
}

/**
 * Which records of a model are listed: those that are kept, or with `bin` those that were deleted; or those
 * named, whichever.
 */
export class ListRecordsRequest {
  @IsOptional()
  @IsString({ message: 'Records are named by their identifiers, with commas between; at most 200.' })
  @Matches(/^[0-9a-f-]{36}(,[0-9a-f-]{36}){0,199}$/i, {
    message: 'Records are named by their identifiers, with commas between; at most 200.',
  })
  ids?: string;

  @IsOptional()
  @IsIn(['true', 'false'], { message: 'Whether records of the bin are listed is true or false.' })
  bin?: string;
}

const DENSITY = 'The density is above 0 and at most 22700 kg/m³, which nothing exceeds.';
const SPREAD = 'The spread is 0 or more, in kg/m³, and no more than the density.';

/** A material of one's own. */
export class SaveMaterialRequest {
  @IsName('material')
  name!: string;

  @IsIn(MATERIAL_FAMILIES, { message: 'The family is one of the families of the library.' })
  family!: MaterialFamily;

  /** kg/m³ */
  @IsNumber({}, { message: DENSITY })
  @Min(1 / 1000, { message: DENSITY })
  @Max(22_700, { message: DENSITY })
  density!: number;

  /** kg/m³ */
  @IsNumber({}, { message: SPREAD })
  @Min(0, { message: SPREAD })
  @Max(22_700, { message: SPREAD })
  spread!: number;

  @IsString({ message: 'The source is text.' })
  @Length(0, 200, { message: 'The source has at most 200 characters.' })
  source!: string;
}

/** A name that its browser gives to a profile, on one line; an empty one takes the name away. */
export class RenameProfileRequest {
  @IsString({ message: 'The name of a profile is text.' })
  @Length(0, 80, { message: 'The name of a profile has at most 80 characters.' })
  // eslint-disable-next-line no-control-regex
  @Matches(/^[^\u0000-\u001f\u007f]*$/, {
    message: 'The name of a profile is one line, without control characters.',
  })
  name!: string;
}
