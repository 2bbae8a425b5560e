import type { ModelDetail } from '@bathyscope/contracts';
import type { ComponentPath, MatchedPart, MatchedStructures, Occurrence } from '@bathyscope/core';

/** Another revision of the model, and what became of it on the one that is open. */
export interface OtherRevision {
  detail: ModelDetail;
  byPath: ReadonlyMap<ComponentPath, Occurrence>;
  keys: readonly string[];
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

export const nothingCarried = (): CarriedFrom => ({ others: new Map(), states: [], failed: new Set(), under: Promise.resolve() });
