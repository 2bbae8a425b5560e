import { nearSegment } from './near-segment.ts';
import { Box3, type Triangle } from 'three';
import { INTERSECTED, NOT_INTERSECTED, type MeshBVH } from 'three-mesh-bvh';
import { boxCorners, transformBox, type Box3 as PlainBox } from '../math/box3.ts';
import { transformPoint, type Mat4 } from '../math/mat4.ts';
import { addScaled, subtract, type Vec3 } from '../math/vec3.ts';
import { project, type Pane, type ViewCamera } from './view-camera.ts';

export interface ScreenComponent {
  /** Of the part as stored (relative to its geometry's origin). */
  placement: Mat4;
  /** In the frame of `placement`. */
  box: PlainBox;
  bvh: MeshBVH;
}

interface Best {
  away: number;
  point: Vec3 | null;
}

/**
 * The point of the drawn model that is nearest to a pixel on the screen: on its silhouette when the pixel
 * lies beside it. Boxes bound the distance from below, so that few triangles are looked at.
 * @returns null when nothing lies in front of the eye
 */
export function nearestOnScreen(
  camera: ViewCamera,
  pane: Pane,
  x: number,
  y: number,
  components: Iterable<ScreenComponent>,
): Vec3 | null {
  const best: Best = { away: Infinity, point: null };
  const ordered = [...components].map((c) => ({
    c,
    bound: boxDistance(camera, pane, x, y, boxCorners(transformBox(c.placement, c.box))),
  }));
  ordered.sort((a, b) => a.bound - b.bound);
  for (const { c, bound } of ordered) {
    if (bound >= best.away) break;
    searchPart(camera, pane, x, y, c, best);
  }
  return best.point;
}

function searchPart(
  camera: ViewCamera,
  pane: Pane,
  x: number,
  y: number,
  { placement, bvh }: ScreenComponent,
  best: Best,
): void {
  const distanceOf = (box: Box3) =>
    boxDistance(
      camera,
      pane,
      x,
      y,
      boxCorners({ min: box.min.toArray(), max: box.max.toArray() }).map((p) => transformPoint(placement, p)),
    );
  bvh.shapecast({
    boundsTraverseOrder: distanceOf,
    intersectsBounds: (box, _leaf, score) =>
      (score ?? distanceOf(box)) < best.away ? INTERSECTED : NOT_INTERSECTED,
    intersectsTriangle: (triangle: Triangle) => {
      const corners = [triangle.a, triangle.b, triangle.c].map((v) => transformPoint(placement, v.toArray()));
      for (let i = 0; i < 3; i++) tryEdge(camera, pane, x, y, corners[i], corners[(i + 1) % 3], best);
      return false;
    },
  });
}

function tryEdge(camera: ViewCamera, pane: Pane, x: number, y: number, a: Vec3, b: Vec3, best: Best): void {
  const [p, q] = [project(camera, pane, a), project(camera, pane, b)];
  if (p.behind || q.behind) return;
  const { share, away } = nearSegment(p, q, x, y);
  if (away < best.away) {
    best.away = away;
    best.point = addScaled(a, subtract(b, a), share);
  }
}

/** px from a pixel to the rectangle around a box as seen; 0 when part of it is behind the eye. */
function boxDistance(camera: ViewCamera, pane: Pane, x: number, y: number, corners: readonly Vec3[]): number {
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const corner of corners) {
    const p = project(camera, pane, corner);
    if (p.behind) return 0;
    left = Math.min(left, p.x);
    right = Math.max(right, p.x);
    top = Math.min(top, p.y);
    bottom = Math.max(bottom, p.y);
  }
  return Math.hypot(Math.max(0, left - x, x - right), Math.max(0, top - y, y - bottom));
}
