import { Type } from 'class-transformer';
import { IsIn, IsInt, IsObject, IsOptional, IsString, Length, Matches, Max, MaxLength, Min, ValidateNested } from 'class-validator';

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

/** A view-state document as the client keeps it; its parts are checked by core's `migrateViewState`. */
export class SaveViewStateRequest {
  @IsObject({ message: 'A view state is an object.' })
  document!: Record<string, unknown>;
}
