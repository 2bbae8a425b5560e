import { interference } from './interference.ts';
import { leastDistance } from './least-distance.ts';
import type { Question } from './question.ts';
import { section } from './section.ts';

/**
 * Every question that can be put to the kernel about a model, by the name in its address. A new one is a file
 * here and a line below.
 */
export const QUESTIONS = {
  distance: leastDistance,
  interference,
  section,
} as const;

export type QuestionName = keyof typeof QUESTIONS;

/** What is asked and answered, by name. */
export type Questions = {
  [Q in QuestionName]: (typeof QUESTIONS)[Q] extends Question<infer Asked, infer Answered>
    ? { asked: Asked; answered: Answered }
    : never;
};

export type { InterferenceAnswered } from './interference.ts';
export type { LeastDistanceAnswered, PickedThing } from './least-distance.ts';
export type { GaveUp, Placed, Places, Question } from './question.ts';
export type { ExactCut } from './section.ts';
