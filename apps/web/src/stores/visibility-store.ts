import { stateOf, type ComponentStates } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';

interface VisibilityState {
  states: ComponentStates;
  /** The hidden set is shown instead of the visible one, to bring single components back. */
  peeking: boolean;
  set: (states: ComponentStates) => void;
}

/** The one table of how each component is shown. */
export const visibilityStore = createStore<VisibilityState>()((set) => ({ states: {}, peeking: false, set: (states) => set({ states }) }));

/** Whether a component is on the screen: visible, or hidden while peeking. */
export function isShown(path: string): boolean {
  const { states, peeking } = visibilityStore.getState();
  return stateOf(states, path).visible !== peeking;
}

/** Whether it is drawn as a ghost, which does not hide what is behind it from picking. */
export const isGhost = (path: string): boolean => stateOf(visibilityStore.getState().states, path).ghosted;
