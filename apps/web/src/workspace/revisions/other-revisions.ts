import type { ModelDetail } from '@bathyscope/contracts';
import type { ComponentPath, Occurrence } from '@bathyscope/core/model';
import type { Reference } from '@bathyscope/core/references';
import type { MatchedPart, MatchedStructures } from '@bathyscope/core/revisions';

/** Another revision of the model, and what became of it on the one that is open. */
export interface OtherRevision {
  detail: ModelDetail;
  byPath: ReadonlyMap<ComponentPath, Occurrence>;
  keys: readonly string[];
  /**
   * Where it is of one component: a thing of that. It lies in its part's frame as a whole; where that lies
   * otherwise, so does all that is seen.
   */
  alone: Extract<Reference, { index: number }> | null;
  matched: MatchedStructures;
  /** By the hashes of the old and the new geometry. */
  things: Map<string, MatchedPart>;
}

/** What is known of other revisions; null of one that cannot be had. */
export interface CarriedFrom {
  others: Map<number, OtherRevision | null>;
  /** States that were made on other revisions, and are to be read on this one. */
  states: readonly { revision: number; document: unknown }[];
  /** Pairs of geometries that could not be compared. */
  failed: Set<string>;
  /** What is being compared. */
  under: Promise<void>;
}

export const nothingCarried = (): CarriedFrom => ({
  others: new Map(),
  states: [],
  failed: new Set(),
  under: Promise.resolve(),
});
