import type { SavedView } from '@bathyscope/contracts';
import { createStore } from 'zustand/vanilla';
import type { Workspace } from '../workspace/workspace.ts';

interface SavedViewState {
  views: SavedView[];
  /** The one recalled last, until the camera moves. */
  current: string | null;
}

/** The saved views of the model on the screen, in their order. */
export const createSavedViewsState = () => createStore<SavedViewState>()(() => ({ views: [], current: null }));

export const replaceView = (ws: Workspace, view: SavedView): void => ws.savedViews.setState(({ views }) => ({
  // A slot belongs to one view.
  views: views.map((v) => (v.id === view.id ? view : v.slot !== null && v.slot === view.slot ? { ...v, slot: null } : v)),
}));
