import { stateOf, type Box3 } from '@bathyscope/core';
import { boxOf } from './components.ts';
import type { Workspace } from './workspace.ts';

/** Whether a component is on the screen: visible, or hidden while peeking. */
export function isShown(ws: Workspace, path: string): boolean {
  const { states, peeking } = ws.visibility.getState();
  return stateOf(states, path).visible !== peeking;
}

/** Whether it is drawn as a ghost, which does not hide what is behind it from picking. */
export const isGhost = (ws: Workspace, path: string): boolean => stateOf(ws.visibility.getState().states, path).ghosted;

/** Paths of what is on the screen. */
export const visiblePaths = (ws: Workspace): string[] =>
  ws.model.getState().components.flatMap((c) => (isShown(ws, c.path) ? [c.path] : []));

/** Of what is shown; of everything when all is hidden. */
export function shownBox(ws: Workspace): Box3 {
  const { parts, components } = ws.model.getState();
  const visibility = ws.visibility.getState();
  // Asked at every step of a drag by all that stands on the model's size.
  if (ws.memo.shownBox?.parts !== parts || ws.memo.shownBox.visibility !== visibility) {
    const shown = visiblePaths(ws);
    ws.memo.shownBox = { parts, visibility, box: boxOf(ws, shown.length ? shown : components.map((c) => c.path)) };
  }
  return ws.memo.shownBox.box;
}
