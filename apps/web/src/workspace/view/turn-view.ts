import { betweenViews, withProjection, type ViewCamera } from '@bathyscope/core/camera';
import type { Workspace } from '../workspace.ts';

/** ms: long enough to see which way the view turned, short enough not to wait for. */
const TURN_TIME = 250;

/** Turns smoothly to another view; anything that moves the camera meanwhile ends it. */
export function turnTo(ws: Workspace, camera: ViewCamera, pane = ws.camera.getState().active): void {
  const mine = ++ws.players.turn;
  const { panes, pivot, setCamera } = ws.camera.getState();
  if (window.matchMedia('(prefers-reduced-motion: reduce)').matches) {
    setCamera(camera, pane);
    return;
  }
  const from = withProjection(panes[pane].camera, camera.projection, pivot);
  const start = performance.now();
  const step = (now: number) => {
    if (ws.players.turn !== mine) return;
    const t = Math.min(1, Math.max(0, (now - start) / TURN_TIME));
    ws.camera.getState().setCamera(betweenViews(from, camera, 1 - (1 - t) ** 3), pane);
    if (t < 1) requestAnimationFrame(step);
  };
  requestAnimationFrame(step);
}

/** Ends a turn under way, because the hand took over. */
export const stopTurning = (ws: Workspace): void => void ws.players.turn++;
