import type { Point2 } from '../math/point2.ts';

const turn = (a: Point2, b: Point2, c: Point2): number =>
  (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

/**
 * The corners of the convex outline about points, counter-clockwise (A. M. Andrew's monotone chain, 1979).
 */
export function convexHull2(points: readonly Point2[]): Point2[] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const half = (all: readonly Point2[]): Point2[] => {
    const chain: Point2[] = [];
    for (const p of all) {
      while (chain.length > 1 && turn(chain[chain.length - 2], chain[chain.length - 1], p) <= 0) chain.pop();
      chain.push(p);
    }
    chain.pop();
    return chain;
  };
  const hull = [...half(sorted), ...half([...sorted].reverse())];
  return hull.length ? hull : sorted.slice(0, 1);
}
