import type { Vec3 } from '@bathyscope/core/math';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsDefined,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  Max,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import type { PlacedShape } from '../shapes/shape-session.ts';
import { question, type Places } from './question.ts';

/** One picked thing of a model: the component by its path, the thing by its index in the part's geometry. */
export class PickedThing {
  @IsString({ message: 'A picked thing names its component by its path.' })
  component!: string;

  @IsIn(['part', 'body', 'face', 'edge', 'vertex', 'point'], {
    message: 'A picked thing is a part, body, face, edge, vertex or point.',
  })
  kind!: 'part' | 'body' | 'face' | 'edge' | 'vertex' | 'point';

  @IsOptional()
  @IsInt({ message: 'The index of a picked thing is a whole number.' })
  @Min(0)
  @Max(10_000_000)
  index?: number;

  /** Of a point: where it is in the model, mm. */
  @ValidateIf((thing: PickedThing) => thing.kind === 'point')
  @IsArray({ message: 'A point has three coordinates, mm.' })
  @ArrayMinSize(3, { message: 'A point has three coordinates, mm.' })
  @ArrayMaxSize(3, { message: 'A point has three coordinates, mm.' })
  @IsNumber({}, { each: true, message: 'A point has three coordinates, mm.' })
  at?: Vec3;
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

const placed = ({ kind, index, component, at }: PickedThing, places: Places): PlacedShape =>
  kind === 'point' ? { kind, at: at! } : { kind, index: index ?? 0, ...places[component] };

export const leastDistance = question<LeastDistanceAsked, LeastDistanceAnswered>({
  asked: LeastDistanceAsked,
  summary: 'Exact least distance between two things of a model',
  example: {
    a: { component: './Spool group/Spool', kind: 'face', index: 4 },
    b: { component: './Body group/Valve body', kind: 'part' },
  },
  components: ({ a, b }) => [a.component, b.component],
  limit: 30_000,
  answer: ({ a, b }, places, session) => ({
    ...session.leastDistance(placed(a, places), placed(b, places)),
    accuracy: 'exact',
  }),
  refusal: 'The least distance could not be found',
});
