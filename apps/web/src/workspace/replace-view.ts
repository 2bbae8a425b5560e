import type { SavedView } from '@bathyscope/contracts';
import type { Workspace } from './workspace.ts';

export const replaceView = (ws: Workspace, view: SavedView): void =>
  ws.savedViews.setState(({ views }) => ({
    // A slot belongs to one view.
    views: views.map((v) => (v.id === view.id ? view : v.slot !== null && v.slot === view.slot ? { ...v, slot: null } : v)),
  }));
