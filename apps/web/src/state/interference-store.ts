import type { Questions } from '@bathyscope/contracts';
import { createStore } from './tracked-store.ts';

/** How two components stand to each other, or why that is not known. */
export type FoundInterference = Questions['interference']['answered'][number];

export interface InterferenceState {
  /** What was checked, in words; null before the first check. */
  of: string | null;
  /** Whether that was each component of the model with each other. */
  ofAll: boolean;
  /** Pairs that touch or clash, or of which nothing is known; the deepest first. */
  found: FoundInterference[];
  /** Pairs of boxes that meet, and how many of them are done. */
  pairs: number;
  done: number;
  running: boolean;
  /** The one whose place is marked in the scene, for as long as nothing is picked. */
  shown: FoundInterference | null;
  /** A sentence, when the check came to an end before its time. */
  error: string | null;
}

export const NO_INTERFERENCES: InterferenceState = {
  of: null,
  ofAll: false,
  found: [],
  pairs: 0,
  done: 0,
  running: false,
  shown: null,
  error: null,
};

/** The last check of what clashes with what. */
export const createInterferenceState = () => createStore<InterferenceState>()(() => NO_INTERFERENCES);
