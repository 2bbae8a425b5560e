import type { ComponentStates } from '@bathyscope/core/visibility';
import { createStore } from './tracked-store.ts';

interface VisibilityState {
  states: ComponentStates;
  /** The hidden set is shown instead of the visible one, to bring single components back. */
  peeking: boolean;
  set: (states: ComponentStates) => void;
}

/** The one table of how each component is shown. */
export const createVisibilityState = () =>
  createStore<VisibilityState>()((set) => ({ states: {}, peeking: false, set: (states) => set({ states }) }));
