import { isBehindEye } from '@bathyscope/core/camera';
import { boxCorners, transformBox } from '@bathyscope/core/math';
import { outlineOf } from '@bathyscope/core/picking';
import { visiblePaths } from '../shown/shown.ts';
import type { Workspace } from '../workspace.ts';

/** px: what is smaller all together is not seen. */
const SEEN = 2;

/**
 * Why nothing of the model is to be seen in a pane: all is hidden, or the boxes of all that is shown lie off
 * it; null where something may be.
 */
export function nothingIn(ws: Workspace, index: number): 'hidden' | 'away' | null {
  const { byPath, parts, components } = ws.model.getState();
  const pane = ws.camera.getState().panes[index];
  if (!pane || !components.length) return null;
  const paths = visiblePaths(ws);
  if (!paths.length) return 'hidden';
  const { camera, size } = pane;
  const around = { left: Infinity, right: -Infinity, top: Infinity, bottom: -Infinity };
  for (const path of paths) {
    const { part, placement } = byPath.get(path)!;
    const geometry = parts.get(part!)?.geometry;
    if (!geometry) continue;
    const corners = boxCorners(transformBox(placement, geometry.box));
    const at = outlineOf(camera, size, corners);
    // What reaches behind the eye may lie anywhere.
    if (!at && !corners.every((p) => isBehindEye(camera, p))) return null;
    if (!at || at.right < 0 || at.left > size.width || at.bottom < 0 || at.top > size.height) continue;
    around.left = Math.min(around.left, at.left);
    around.right = Math.max(around.right, at.right);
    around.top = Math.min(around.top, at.top);
    around.bottom = Math.max(around.bottom, at.bottom);
    if (Math.max(around.right - around.left, around.bottom - around.top) >= SEEN) return null;
  }
  return 'away';
}
