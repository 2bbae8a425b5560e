import { FRAMES, MAX_HEIGHT, MIN_HEIGHT, zoomLimits } from '@bathyscope/core/camera';
import { boxDiagonal, isEmptyBox } from '@bathyscope/core/math';
import { modelBox } from '../shown/components.ts';
import type { Workspace } from '../workspace.ts';
import { type PaneState } from '../../state/camera-store.ts';

export const mainPane = (ws: Workspace): PaneState => ws.camera.getState().panes[0];

export function activePane(ws: Workspace): PaneState {
  const { panes, active } = ws.camera.getState();
  return panes[active] ?? panes[0];
}

export const modelFrame = (ws: Workspace) => FRAMES[ws.camera.getState().upAxis];

/** Heights of the field between which looking at the model has sense, mm. */
export function limitsOf(ws: Workspace): { min: number; max: number } {
  const box = modelBox(ws);
  return isEmptyBox(box) ? { min: MIN_HEIGHT, max: MAX_HEIGHT } : zoomLimits(boxDiagonal(box));
}

/** The pane at a pixel of the canvas, with the pixel in the pane's own coordinates. */
export function paneAt(ws: Workspace, x: number, y: number): { index: number; x: number; y: number } {
  const { panes, canvas } = ws.camera.getState();
  const index = Math.max(
    0,
    panes.findIndex(
      ({ rect }) =>
        x >= rect.x * canvas.width &&
        x < (rect.x + rect.width) * canvas.width &&
        y >= rect.y * canvas.height &&
        y < (rect.y + rect.height) * canvas.height,
    ),
  );
  return { index, x: x - panes[index].rect.x * canvas.width, y: y - panes[index].rect.y * canvas.height };
}

/** Where the pane under the cursor begins, px of the canvas. */
export function paneOrigin(ws: Workspace): { x: number; y: number } {
  const { canvas } = ws.camera.getState();
  const { rect } = activePane(ws);
  return { x: rect.x * canvas.width, y: rect.y * canvas.height };
}
