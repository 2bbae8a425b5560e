import { migrateViewState, ViewStateError, type ViewState } from '@bathyscope/core';
import { ProblemException } from '../problems/problem.ts';

/** A view-state document of a request, checked. @throws ProblemException with a sentence */
export function readViewState(document: unknown): ViewState {
  try {
    return migrateViewState(document);
  } catch (error) {
    if (error instanceof ViewStateError) throw new ProblemException(422, 'Not a view state', error.message);
    throw error;
  }
}

/** A document as it was stored, lifted to the present version; one that this version cannot read is given as it is. */
export function liftViewState(document: ViewState): ViewState {
  try {
    return migrateViewState(document);
  } catch {
    return document;
  }
}
