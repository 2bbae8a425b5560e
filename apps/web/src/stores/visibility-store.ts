import type { ComponentStates } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';

interface VisibilityState {
  states: ComponentStates;
  set: (states: ComponentStates) => void;
}

/** The one table of how each component is shown. */
export const visibilityStore = createStore<VisibilityState>()((set) => ({ states: {}, set: (states) => set({ states }) }));
