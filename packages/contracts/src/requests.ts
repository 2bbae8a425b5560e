import { Type } from 'class-transformer';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsBoolean, IsIn, IsInt, IsNumber, IsObject, IsOptional, IsString, IsUUID, Length, Matches, Max, MaxLength, Min, ValidateNested } from 'class-validator';

export class RenameModelRequest {
  @IsString()
  @Length(1, 200, { message: 'A model name has between 1 and 200 characters.' })
  @Matches(/\S/, { message: 'A model name cannot be blank.' })
  name!: string;
}

/** One picked thing of a model: the component by its path, the thing by its index in the part's geometry. */
export class PickedThing {
  @IsString()
  @MaxLength(4000)
  component!: string;

  @IsIn(['part', 'face', 'edge', 'vertex'], { message: 'A picked thing is a part, face, edge or vertex.' })
  kind!: 'part' | 'face' | 'edge' | 'vertex';

  @IsOptional()
  @IsInt()
  @Min(0)
  @Max(10_000_000)
  index?: number;
}

export class DistanceRequest {
  @ValidateNested()
  @Type(() => PickedThing)
  a!: PickedThing;

  @ValidateNested()
  @Type(() => PickedThing)
  b!: PickedThing;
}

/** A plane, and the components whose exact cut by it is wanted. */
export class SectionRequest {
  /** Unit; towards what is removed. */
  @IsArray()
  @ArrayMinSize(3)
  @ArrayMaxSize(3)
  @IsNumber({}, { each: true, message: 'The normal of the plane has three numbers.' })
  normal!: [number, number, number];

  /** mm: points p with normal · p = constant. */
  @IsNumber({}, { message: 'The plane needs its distance from the origin.' })
  constant!: number;

  /** The model's up axis, which tells the axes that the cut is told in. */
  @IsOptional()
  @IsIn(['y', 'z'], { message: 'Either y or z is up.' })
  up?: 'y' | 'z';

  @IsArray()
  @ArrayMaxSize(200, { message: 'Exact cuts are answered for 200 components at a time.' })
  @IsString({ each: true })
  @MaxLength(4000, { each: true })
  components!: string[];
}

/** A view-state document as the client keeps it; its parts are checked by core's `migrateViewState`. */
export class SaveViewStateRequest {
  @IsObject({ message: 'A view state is an object.' })
  document!: Record<string, unknown>;
}

/** Which parts of a saved view are taken when it is recalled. */
export class RecallRequest {
  @IsBoolean()
  camera!: boolean;

  @IsBoolean()
  projection!: boolean;

  @IsBoolean()
  visibility!: boolean;

  @IsBoolean()
  style!: boolean;

  @IsBoolean()
  section!: boolean;
}

export class CreateSavedViewRequest extends SaveViewStateRequest {
  @IsString()
  @Length(1, 200, { message: 'The name of a view has between 1 and 200 characters.' })
  name!: string;

  @IsOptional()
  @IsInt()
  @Min(1)
  @Max(9)
  slot?: number;
}

/** What is absent stays; a slot of null takes the view out of its slot. */
export class ChangeSavedViewRequest {
  @IsOptional()
  @IsString()
  @Length(1, 200, { message: 'The name of a view has between 1 and 200 characters.' })
  name?: string;

  @IsOptional()
  @IsInt()
  @Min(1, { message: 'Slots are numbered from 1 to 9.' })
  @Max(9, { message: 'Slots are numbered from 1 to 9.' })
  slot?: number | null;

  @IsOptional()
  @IsObject()
  document?: Record<string, unknown>;

  @IsOptional()
  @ValidateNested()
  @Type(() => RecallRequest)
  recall?: RecallRequest;
}

export class OrderSavedViewsRequest {
  @IsArray()
  @IsUUID(undefined, { each: true })
  ids!: string[];
}

/** Settings of the interface, or of one model: the interface checks what it knows of them. */
export class SaveSettingsRequest {
  @IsObject()
  values!: Record<string, unknown>;
}
