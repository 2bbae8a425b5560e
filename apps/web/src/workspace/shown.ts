import { stateOf } from '@bathyscope/core';
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
