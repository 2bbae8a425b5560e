import 'reflect-metadata';
import type { Mat4 } from '@bathyscope/core/math';
import type { ShapeSession } from '../shapes/shape-session.ts';

/** A component as a question meets it: which stored shape it shows, and where it is placed in the model. */
export interface Placed {
  hash: string;
  placement: Mat4;
}

/** Components by their path; every path that `components` named is there. */
export type Places = Readonly<Record<string, Placed>>;

/** Why a piece of a question came to nothing. */
export type GaveUp = 'it took too long' | 'the kernel could not do it';

/**
 * One kind of question to the kernel: what may be asked, how it is answered, and for how
 * long one may work on it.
 */
export interface Question<Asked extends object, Answered> {
  /** What is asked, a class with class-validator's rules. */
  asked: new () => Asked;
  summary: string;
  /** What is asked, as it is sent; told to those who write scripts. */
  example: Asked;
  /** Paths of the components whose shapes are needed. */
  components(asked: Asked): string[];
  /** ms of work that one piece may take, counted from its start. */
  limit: number;
  /** Whether nobody waits for this very answer: what somebody does wait for goes first. */
  background?(asked: Asked): boolean;
  /** Independent pieces, each with a limit of its own; without it a question is one piece. */
  split?(asked: Asked): Asked[];
  /** Puts the answers of the pieces together, in their order. */
  join?(answers: Answered[]): Answered;
  /** Answers one piece. The shapes of its components are loaded. */
  answer(asked: Asked, places: Places, session: ShapeSession): Answered;
  /** What stands for a piece that came to nothing; without it the whole question is refused. */
  gaveUp?(asked: Asked, why: GaveUp): Answered;
  /** A sentence for the user when the question is refused, followed by why. */
  refusal: string;
}

/** Checks a definition's types against each other, and returns it. */
export const question = <Asked extends object, Answered>(
  definition: Question<Asked, Answered>,
): Question<Asked, Answered> => definition;
