import type { SavedView } from '@bathyscope/contracts';
import { createStore } from 'zustand/vanilla';

interface SavedViewState {
  views: SavedView[];
  /** The one recalled last, until the camera moves. */
  current: string | null;
}

/** The saved views of the model on the screen, in their order. */
export const createSavedViewsState = () => createStore<SavedViewState>()(() => ({ views: [], current: null }));
