import type { Point2 } from '../../math/point2.ts';
import { STRAIGHT_CORNER } from '../../tolerances.ts';

/** Whether the way turns at a point. */
const isCorner = (a: Point2, b: Point2, c: Point2): boolean => {
  const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]];
  const product = Math.hypot(ux, uy) * Math.hypot(vx, vy);
  return product > 0 && (Math.abs(ux * vy - uy * vx) > STRAIGHT_CORNER * product || ux * vx + uy * vy < 0);
};

/** A chain without the points that lie on the straight line between their neighbours; its ends stay. */
export function straightenChain(chain: readonly Point2[]): Point2[] {
  const kept: Point2[] = [];
  for (const p of chain) {
    while (kept.length >= 2 && !isCorner(kept[kept.length - 2], kept[kept.length - 1], p)) kept.pop();
    kept.push(p);
  }
  return kept;
}

/**
 * A loop without the points that lie on the straight line between their neighbours: triangles
 * of a flat face leave many.
 */
export function straighten(loop: readonly Point2[]): Point2[] {
  const kept = straightenChain(loop);
  while (kept.length > 3 && !isCorner(kept[kept.length - 2], kept[kept.length - 1], kept[0])) kept.pop();
  while (kept.length > 3 && !isCorner(kept[kept.length - 1], kept[0], kept[1])) kept.shift();
  return kept;
}
