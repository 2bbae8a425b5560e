import type { Vec3 } from '@bathyscope/core';
import { Type } from 'class-transformer';
import { IsDefined, IsIn, IsInt, IsOptional, IsString, Max, MaxLength, Min, ValidateNested } from 'class-validator';
import type { PlacedShape } from '../shape-session.ts';
import { question, type Places } from './question.ts';

/** One picked thing of a model: the component by its path, the thing by its index in the part's geometry. */
export class PickedThing {
  @IsString({ message: 'A picked thing names its component by its path.' })
  @MaxLength(4000)
  component!: string;

  @IsIn(['part', 'face', 'edge', 'vertex'], { message: 'A picked thing is a part, face, edge or vertex.' })
  kind!: 'part' | 'face' | 'edge' | 'vertex';

  @IsOptional()
  @IsInt({ message: 'The index of a picked thing is a whole number.' })
  @Min(0)
  @Max(10_000_000)
  index?: number;
}

export class LeastDistanceAsked {
  @IsDefined({ message: 'A distance needs two picked things, a and b.' })
  @ValidateNested()
  @Type(() => PickedThing)
  a!: PickedThing;

  @IsDefined({ message: 'A distance needs two picked things, a and b.' })
  @ValidateNested()
  @Type(() => PickedThing)
  b!: PickedThing;
}

export interface LeastDistanceAnswered {
  /** mm; 0 when they touch or run into each other. */
  distance: number;
  /** The two nearest points in model space. */
  from: Vec3;
  to: Vec3;
  accuracy: 'exact';
}

const placed = (thing: PickedThing, places: Places): PlacedShape => ({
  kind: thing.kind,
  index: thing.index ?? 0,
  ...places[thing.component],
});

export const leastDistance = question<LeastDistanceAsked, LeastDistanceAnswered>({
  asked: LeastDistanceAsked,
  summary: 'Exact least distance between two things of a model',
  components: ({ a, b }) => [a.component, b.component],
  limit: 30_000,
  answer: ({ a, b }, places, session) => ({ ...session.leastDistance(placed(a, places), placed(b, places)), accuracy: 'exact' }),
  refusal: 'The least distance could not be found',
});
