import type { Pane, ViewCamera } from '@bathyscope/core/camera';
import type { Vec3 } from '@bathyscope/core/math';
import { liesWithin, isSeenIn, outlineOf, type ScreenBox } from '@bathyscope/core/picking';
import type { Picked } from '../../state/selection-store.ts';
import { geometryOf } from '../view/camera-targets.ts';
import { paneAt } from '../view/panes.ts';
import { pickBox } from './picking.ts';
import { placedPointsOf } from './placed-points.ts';
import type { Workspace } from '../workspace.ts';

/**
 * What a rectangle of the canvas holds of what the filter lets through: all of it inside, or touching it at
 * all. Without a filter, components.
 */
export function pickInRectangle(
  ws: Workspace,
  from: { x: number; y: number },
  to: { x: number; y: number },
  touching: boolean,
): Picked[] {
  const { filter } = ws.filter.getState();
  const kind = filter === 'point' ? 'vertex' : filter;
  if (kind === 'all' || kind === 'component') return pickBox(ws, from, to, touching);
  const a = paneAt(ws, from.x, from.y);
  const { camera, size } = ws.camera.getState().panes[a.index];
  const b = { x: a.x + to.x - from.x, y: a.y + to.y - from.y };
  const box = {
    left: Math.min(a.x, b.x),
    right: Math.max(a.x, b.x),
    top: Math.min(a.y, b.y),
    bottom: Math.max(a.y, b.y),
  };
  return pickBox(ws, from, to, true).flatMap(({ component }) => {
    const placed = geometryOf(ws, { kind: 'component', component, index: 0 });
    if (!placed) return [];
    const { geometry, placement } = placed;
    const count = {
      body: geometry.bodies.length,
      face: geometry.faces.length,
      edge: geometry.edges.length,
      vertex: geometry.vertices.length / 3,
    };
    return Array.from({ length: count[kind] }, (_, index): Picked => ({ kind, component, index })).filter(
      (item) => holds(box, placedPointsOf(item, geometry, placement), kind, touching, camera, size),
    );
  });
}

/**
 * Whether points as they are drawn (corners of triangles, of a line, or one) all lie in a rectangle, or what
 * they bound is seen in it.
 */
function holds(
  box: ScreenBox,
  points: readonly Vec3[],
  kind: 'body' | 'face' | 'edge' | 'vertex',
  touching: boolean,
  camera: ViewCamera,
  size: Pane,
): boolean {
  const outline = points.length ? outlineOf(camera, size, points) : null;
  if (outline && liesWithin(outline, box)) return true;
  if (!touching || kind === 'vertex') return false;
  const [step, corners] = kind === 'edge' ? [1, 2] : [3, 3];
  for (let i = 0; i + corners <= points.length; i += step)
    if (isSeenIn(camera, size, box, points.slice(i, i + corners))) return true;
  return false;
}
