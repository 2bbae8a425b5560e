import { migrateViewState, ViewStateError, type ViewState } from '@bathyscope/core/view-state';
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
