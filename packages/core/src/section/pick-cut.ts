import type { Point2 } from '../math/point2.ts';
import { ALMOST_ALONG } from '../tolerances.ts';
import { project, towardsEye, viewRay, type Pane, type ViewCamera } from '../camera/view-camera.ts';
import { addScaled, dot, subtract, type Vec3 } from '../math/vec3.ts';
import type { PickHit } from '../picking/pick-scene.ts';
import { fromPlane, isWithinLoops, planeFrame, toPlane } from './mesh/cap-of-loops.ts';
import { pointsAlong, startOf, type PlaneCurve } from './curves/plane-curves.ts';
import type { CutPlane } from './mesh/slice-mesh.ts';

/** What of a cut can be picked of one component. */
export interface PickableCut {
  component: number;
  loops: readonly (readonly Point2[])[];
  /** minX, minY, maxX, maxY of it. */
  box: readonly [number, number, number, number];
  /**
   * Of all loops, in one list: what `index` of an outline or corner counts. Asked for only
   * where the pixel is near.
   */
  curves: () => readonly PlaneCurve[];
}

/** px, as for edges and vertices of the model. */
const OUTLINE_REACH = 6;
const CORNER_REACH = 8;
/** px of play between a cut and what lies on it. */
const PLAY = 3;

/**
 * What of a cut is under a pixel: a corner or an outline near it, else the face there. The caller asks what
 * of the model lies before it.
 * @param wanted the kinds that may be picked
 * @returns null where the plane is seen edge on or nothing of the cut is near
 */
export function pickCut(
  cuts: readonly PickableCut[],
  plane: CutPlane,
  camera: ViewCamera,
  pane: Pane,
  x: number,
  y: number,
  wanted: Partial<Record<PickHit['kind'], boolean>> = { cap: true, outline: true, corner: true },
): PickHit | null {
  const frame = planeFrame(plane);
  const { origin, direction } = viewRay(camera, pane, x, y);
  const towards = dot(direction, plane.normal);
  if (Math.abs(towards) < ALMOST_ALONG) return null;
  const t = (plane.constant - dot(origin, plane.normal)) / towards;
  if (camera.projection === 'perspective' && t <= 0) return null;
  const point = addScaled(origin, direction, t);
  const at = toPlane(frame, point);
  // Where the ray meets the plane a px is that many mm, more when seen aslant.
  const beside = viewRay(camera, pane, x + 1, y + 1);
  const other = addScaled(
    beside.origin,
    beside.direction,
    (plane.constant - dot(beside.origin, plane.normal)) / dot(beside.direction, plane.normal),
  );
  const reach = CORNER_REACH * Math.hypot(...subtract(other, point));

  let corner: (PickHit & { away: number }) | null = null;
  let outline: (PickHit & { away: number }) | null = null;
  let face: PickHit | null = null;
  for (const { component, loops, box, curves } of cuts) {
    if (at[0] < box[0] - reach || at[1] < box[1] - reach || at[0] > box[2] + reach || at[1] > box[3] + reach)
      continue;
    if (wanted.cap && !face && isWithinLoops(at, loops)) face = { kind: 'cap', component, index: 0, point };
    const list = wanted.outline || wanted.corner ? curves() : [];
    list.forEach((curve, index) => {
      const points = pointsAlong(curve);
      if (!isNear(points, at, reach)) return;
      const start = fromPlane(frame, startOf(curve));
      const away = awayOnScreen(camera, pane, start, x, y);
      const turns =
        wanted.corner &&
        list.length > 1 &&
        !(curve.shape === 'arc' && Math.abs(curve.to - curve.from) > 6.28);
      if (turns && away < (corner?.away ?? CORNER_REACH))
        corner = { kind: 'corner', component, index, point: start, away };
      if (!wanted.outline) return;
      const near = nearestOnPolyline(points, at);
      const on = fromPlane(frame, near);
      const off = awayOnScreen(camera, pane, on, x, y);
      if (off < (outline?.away ?? OUTLINE_REACH))
        outline = { kind: 'outline', component, index, point: on, away: off };
    });
  }
  const hit = corner ?? outline;
  if (!hit) return face;
  const { away: _, ...rest } = hit as PickHit & { away: number };
  return rest;
}

/** Whether a point of a cut is in front of what the model has at the same pixel, or as good as. */
export function isBefore(camera: ViewCamera, point: Vec3, model: Vec3 | null, pixel: number): boolean {
  return !model || dot(subtract(model, point), towardsEye(camera, point)) <= PLAY * pixel;
}

const awayOnScreen = (camera: ViewCamera, pane: Pane, p: Vec3, x: number, y: number): number => {
  const s = project(camera, pane, p);
  return s.behind ? Infinity : Math.hypot(s.x - x, s.y - y);
};

function isNear(points: readonly Point2[], [x, y]: Point2, reach: number): boolean {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [px, py] of points)
    [minX, minY, maxX, maxY] = [
      Math.min(minX, px),
      Math.min(minY, py),
      Math.max(maxX, px),
      Math.max(maxY, py),
    ];
  return x >= minX - reach && x <= maxX + reach && y >= minY - reach && y <= maxY + reach;
}

/** The point of a polyline that is nearest to another point. */
export function nearestOnPolyline(points: readonly Point2[], [x, y]: Point2): Point2 {
  let best: Point2 = points[0];
  let away = Infinity;
  for (let i = 0; i + 1 < points.length; i++) {
    const [a, b] = [points[i], points[i + 1]];
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const square = dx * dx + dy * dy;
    const t = square > 0 ? Math.max(0, Math.min(1, ((x - a[0]) * dx + (y - a[1]) * dy) / square)) : 0;
    const p: Point2 = [a[0] + t * dx, a[1] + t * dy];
    const d = Math.hypot(p[0] - x, p[1] - y);
    if (d < away) [best, away] = [p, d];
  }
  return best;
}
