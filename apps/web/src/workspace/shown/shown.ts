import type { Box3 } from '@bathyscope/core/math';
import { stateOf } from '@bathyscope/core/visibility';
import { derived } from '../derived/derived.ts';
import { boxOf } from './components.ts';
import type { Workspace } from '../workspace.ts';

/** Whether a component is on the screen: visible, or hidden while peeking. */
export function isShown(ws: Workspace, path: string): boolean {
  const { states, peeking } = ws.visibility.getState();
  return stateOf(states, path).visible !== peeking;
}

/** Whether it is drawn as a ghost, which does not hide what is behind it from picking. */
export const isGhost = (ws: Workspace, path: string): boolean =>
  stateOf(ws.visibility.getState().states, path).ghosted;

const shownPaths = derived('what is shown', (ws) =>
  ws.model.getState().components.flatMap((c) => (isShown(ws, c.path) ? [c.path] : [])),
);

/** Paths of what is on the screen. */
export const visiblePaths = (ws: Workspace): readonly string[] => ws.derived.of(shownPaths);

/** Asked at every step of a drag by all that stands on the model's size. */
const boxOfShown = derived('the box of what is shown', (ws) => {
  const shown = visiblePaths(ws);
  return boxOf(ws, shown.length ? shown : ws.model.getState().components.map((c) => c.path));
});

/** Of what is shown; of everything when all is hidden. */
export const shownBox = (ws: Workspace): Box3 => ws.derived.of(boxOfShown);
