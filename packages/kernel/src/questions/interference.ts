import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Min,
  ValidateNested,
} from 'class-validator';
import type { PairInterference } from '../shapes/interference-of-pair.ts';
import { QuestionRefusal } from '../shapes/shape-session.ts';
import { question } from './question.ts';

/** Two components, by their paths; of each all of it, or one body by its number. */
export class InterferencePair {
  @IsString({ message: 'A pair names two components by their paths.' })
  a!: string;

  @IsString({ message: 'A pair names two components by their paths.' })
  b!: string;

  @IsOptional()
  @IsInt({ message: 'The number of a body is a whole number.' })
  @Min(0)
  bodyOfA?: number;

  @IsOptional()
  @IsInt({ message: 'The number of a body is a whole number.' })
  @Min(0)
  bodyOfB?: number;
}

export class InterferenceAsked {
  @IsArray({ message: 'An interference is asked for pairs of components.' })
  @ArrayMaxSize(100, { message: 'Interferences are answered for 100 pairs at a time.' })
  @ValidateNested({ each: true })
  @Type(() => InterferencePair)
  pairs!: InterferencePair[];

  /**
   * `quick`: the distance of two that are clearly apart may come from the meshes; `mesh`: all of it may.
   * `exact` where absent.
   */
  @IsOptional()
  @IsIn(['exact', 'quick', 'mesh'], { message: 'An interference is found exact, quick or by the mesh.' })
  how?: 'exact' | 'quick' | 'mesh';
}

/** How two components stand to each other, or why there is no answer. */
export type InterferenceAnswered = Pick<InterferencePair, 'a' | 'b'> &
  (PairInterference | { failed: string });

export const interference = question<InterferenceAsked, InterferenceAnswered[]>({
  asked: InterferenceAsked,
  summary:
    'How pairs of components stand to each other: the least gap, contact, or clash with what they share',
  example: { pairs: [{ a: './Spool group/Spool', b: './Body group/Valve body' }], how: 'exact' },
  components: ({ pairs }) => pairs.flatMap(({ a, b }) => [a, b]),
  // Two threaded parts take a second or two; worse ones are answered from the mesh when that is asked for.
  limit: 20_000,
  // Checks of whole assemblies ask so.
  background: ({ how }) => how === 'quick',
  split: (asked) => asked.pairs.map((pair) => ({ ...asked, pairs: [pair] })),
  join: (answers) => answers.flat(),
  answer: ({ pairs, how }, places, session) =>
    pairs.map(({ a, b, bodyOfA, bodyOfB }) => {
      try {
        return {
          a,
          b,
          ...session.interference(
            { ...places[a], body: bodyOfA },
            { ...places[b], body: bodyOfB },
            how ?? 'exact',
          ),
        };
      } catch (error) {
        if (error instanceof QuestionRefusal) return { a, b, failed: error.message };
        throw error;
      }
    }),
  gaveUp: ({ pairs }, why) => pairs.map(({ a, b }) => ({ a, b, failed: why })),
  refusal: 'The interference could not be found',
});
