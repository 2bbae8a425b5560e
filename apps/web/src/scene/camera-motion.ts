import { betweenViews, withProjection, type ViewCamera } from '@bathyscope/core';
import { cameraStore } from '../stores/camera-store.ts';

/** ms: long enough to see which way the view turned, short enough not to wait for. */
const TURN_TIME = 250;

let running = 0;

/** Turns smoothly to another view; anything that moves the camera meanwhile ends it. */
export function turnTo(camera: ViewCamera, pane = cameraStore.getState().active): void {
  const mine = ++running;
  const { panes, pivot, setCamera } = cameraStore.getState();
  if (window.matchMedia('(prefers-reduced-motion: reduce)').matches) {
    setCamera(camera, pane);
    return;
  }
  const from = withProjection(panes[pane].camera, camera.projection, pivot);
  const start = performance.now();
  const step = (now: number) => {
    if (running !== mine) return;
    const t = Math.min(1, Math.max(0, (now - start) / TURN_TIME));
    cameraStore.getState().setCamera(betweenViews(from, camera, 1 - (1 - t) ** 3), pane);
    if (t < 1) requestAnimationFrame(step);
  };
  requestAnimationFrame(step);
}

/** Ends a turn under way, because the hand took over. */
export const stopTurning = (): void => void running++;
