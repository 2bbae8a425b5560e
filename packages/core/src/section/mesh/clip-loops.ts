import type { Point2 } from '../../math/point2.ts';
import { crossingOf, heightOver, opposite, type Combination, type Plane } from '../../math/plane.ts';
import { dot } from '../../math/vec3.ts';
import { planeFrame } from './cap-of-loops.ts';
import { endOf, splitCurve, startOf, type PlaneCurve } from '../curves/plane-curves.ts';
import type { CutPlane } from './slice-mesh.ts';
import { PARALLEL_PLANES } from '../../tolerances.ts';

/**
 * The side a·x + b·y ≤ c of a line, (a, b) of unit length. `null` is everything,
 * `'nothing'` none of the plane.
 */
export type HalfPlane = readonly [a: number, b: number, c: number];

/**
 * On which sides of the other planes a cut is seen: below them, or, where only what all take is taken, above:
 * there each is opposite.
 */
export const seenBelow = <P extends Plane>(others: readonly P[], combine: Combination): readonly P[] =>
  combine === 'any' ? others : others.map(opposite);

/** What lies below another plane, of a cut, in the cut's own axes. */
export function halfPlaneOf(cut: CutPlane, other: Plane): HalfPlane | null | 'nothing' {
  const { u, v, origin } = planeFrame(cut);
  const [a, b] = [dot(other.normal, u), dot(other.normal, v)];
  const c = -heightOver(other, origin);
  const across = Math.hypot(a, b);
  if (across < PARALLEL_PLANES) return c >= 0 ? null : 'nothing';
  return [a / across, b / across, c / across];
}

/** A run of an outline inside the half-plane, from where it enters to where it leaves along the line. */
interface Chain<T> {
  items: T[];
  entry: number;
  exit: number;
}

/**
 * Closes chains along the line they were cut at. Met in the line's direction, with the region to its left,
 * places where an outline leaves and where one enters alternate: the n-th of the one belongs
 * to the n-th of the other.
 */
function closeChains<T>(chains: readonly Chain<T>[], join: (from: Chain<T>, to: Chain<T>) => T[]): T[][] {
  const byExit = [...chains].sort((p, q) => p.exit - q.exit);
  const byEntry = [...chains].sort((p, q) => p.entry - q.entry);
  const next = new Map(byExit.map((chain, i) => [chain, byEntry[i]]));
  const loops: T[][] = [];
  const left = new Set(chains);
  for (const start of chains) {
    if (!left.has(start)) continue;
    const loop: T[] = [];
    for (let at = start; left.delete(at); at = next.get(at)!)
      loop.push(...at.items, ...join(at, next.get(at)!));
    loops.push(loop);
  }
  return loops;
}

/**
 * The part of a region (outer loops anticlockwise, holes clockwise) in a half-plane.
 * Closed loops stay closed.
 */
export function clipLoops(loops: readonly Point2[][], [a, b, c]: HalfPlane): Point2[][] {
  const kept: Point2[][] = [];
  const chains: Chain<Point2>[] = [];
  const along = ([x, y]: Point2) => a * y - b * x;
  for (const loop of loops) {
    const side = loop.map(([x, y]) => c - a * x - b * y);
    const starts = side.flatMap((d, i) => (d < 0 && side[(i + 1) % loop.length] >= 0 ? [i] : []));
    if (!starts.length) {
      if (side[0] >= 0) kept.push(loop);
      continue;
    }
    const crossing = (i: number): Point2 => {
      const j = (i + 1) % loop.length;
      const t = crossingOf(side[i], side[j]);
      return [loop[i][0] + (loop[j][0] - loop[i][0]) * t, loop[i][1] + (loop[j][1] - loop[i][1]) * t];
    };
    for (const start of starts) {
      const items = [crossing(start)];
      let i = (start + 1) % loop.length;
      for (; side[i] >= 0; i = (i + 1) % loop.length) items.push(loop[i]);
      items.push(crossing((i + loop.length - 1) % loop.length));
      chains.push({ items, entry: along(items[0]), exit: along(items.at(-1)!) });
    }
  }
  return [...kept, ...closeChains(chains, () => [])].filter((l) => l.length >= 3);
}

/**
 * The same for outlines of curves: each is split exactly where it crosses, the cut is
 * closed with straight lines.
 */
export function clipCurves(loops: readonly PlaneCurve[][], half: HalfPlane): PlaneCurve[][] {
  const kept: PlaneCurve[][] = [];
  const chains: Chain<PlaneCurve>[] = [];
  const [a, b] = half;
  const along = ([x, y]: Point2) => a * y - b * x;
  for (const loop of loops) {
    const pieces = loop.flatMap((c) => splitCurve(c, half));
    const starts = pieces.flatMap(({ inside }, i) =>
      inside && !pieces[(i + pieces.length - 1) % pieces.length].inside ? [i] : [],
    );
    if (!starts.length) {
      if (pieces[0].inside) kept.push(loop);
      continue;
    }
    for (const start of starts) {
      const items: PlaneCurve[] = [];
      for (let i = start; pieces[i].inside; i = (i + 1) % pieces.length) items.push(pieces[i].piece);
      chains.push({ items, entry: along(startOf(items[0])), exit: along(endOf(items.at(-1)!)) });
    }
  }
  const join = (from: Chain<PlaneCurve>, to: Chain<PlaneCurve>): PlaneCurve[] => {
    const [p, q] = [endOf(from.items.at(-1)!), startOf(to.items[0])];
    return Math.hypot(q[0] - p[0], q[1] - p[1]) > 0 ? [{ shape: 'line', from: p, to: q }] : [];
  };
  return [...kept, ...closeChains(chains, join)];
}
