import { settle, step } from '@bathyscope/core/camera';
import type { Workspace } from '../workspace.ts';
import { trailOf } from '../../state/trail-store.ts';
import { activePane } from './panes.ts';

/** ms without motion after which a view has settled. */
const SETTLED_AFTER = 350;

/** Follows the cameras; one entry for each view that settled. @returns what ends it */
export function keepTrails(ws: Workspace): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  ws.trail.setState({ trails: {} });
  const settleAll = () =>
    ws.trail.setState(({ trails }) => ({
      trails: Object.fromEntries(
        ws.camera.getState().panes.map(({ id, camera }) => [id, settle(trailOf(trails, id), camera)]),
      ),
    }));
  settleAll();
  const off = ws.camera.subscribe((now, before) => {
    if (now.panes === before.panes) return;
    clearTimeout(timer);
    timer = setTimeout(settleAll, SETTLED_AFTER);
  });
  return () => {
    clearTimeout(timer);
    off();
  };
}

/** Steps along the trail of the pane under the cursor. @returns the view to turn to, or null at its end */
export function stepTrail(ws: Workspace, by: 1 | -1) {
  const { id } = activePane(ws);
  const next = step(trailOf(ws.trail.getState().trails, id), by);
  if (!next) return null;
  ws.trail.setState(({ trails }) => ({ trails: { ...trails, [id]: next } }));
  return next.views[next.at];
}
