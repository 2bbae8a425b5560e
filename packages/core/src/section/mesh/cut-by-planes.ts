import { dot, type Vec3 } from '../../math/vec3.ts';
import type { Combination } from '../planes/section-plane.ts';
import type { CutPlane } from './slice-mesh.ts';

/** Planes in the coordinates of what they cut: what lies above them (d > 0) is taken, by any or where all take it. */
export interface CutBy {
  planes: readonly CutPlane[];
  combine: Combination;
}

const above = (p: Vec3, { normal, constant }: CutPlane): number => dot(p, normal) - constant;

/** On the removed side or in the plane: there the cut's outline takes the place of what lies in it. */
const isAbove = (p: Vec3, plane: CutPlane): boolean => above(p, plane) > -(plane.within ?? 0);

const between = (a: Vec3, b: Vec3, t: number): Vec3 => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];

/** What planes leave of a chain of points; it may fall into several. */
export function cutChain(points: readonly Vec3[], { planes, combine }: CutBy): Vec3[][] {
  const runs: Vec3[][] = [];
  let run: Vec3[] = [];
  const end = () => {
    if (run.length > 1) runs.push(run);
    run = [];
  };
  for (let i = 0; i + 1 < points.length; i++) {
    const [a, b] = [points[i], points[i + 1]];
    const crossings = planes.flatMap((plane) => {
      const [da, db] = [above(a, plane), above(b, plane)];
      return da > 0 !== db > 0 ? [da / (da - db)] : [];
    });
    const stops = [0, ...crossings.sort((p, q) => p - q), 1];
    for (let k = 0; k + 1 < stops.length; k++) {
      if (stops[k + 1] <= stops[k]) continue;
      const middle = between(a, b, (stops[k] + stops[k + 1]) / 2);
      const removed = combine === 'any' ? planes.some((plane) => isAbove(middle, plane)) : planes.every((plane) => isAbove(middle, plane));
      if (removed) end();
      else {
        if (!run.length) run.push(between(a, b, stops[k]));
        run.push(between(a, b, stops[k + 1]));
      }
    }
  }
  end();
  return runs;
}

/** What planes leave of a triangle: triangles, three corners each. */
export function cutTriangle(triangle: readonly Vec3[], { planes, combine }: CutBy): Vec3[] {
  const pieces: Vec3[][] = [];
  let rest: Vec3[] = [...triangle];
  for (const plane of planes) {
    const { below, above: beyond } = halve(rest, plane);
    // What any plane leaves stays: the pieces below each, of what lies above those before it.
    if (combine === 'all') pieces.push(below);
    rest = combine === 'all' ? beyond : below;
  }
  if (combine === 'any') pieces.push(rest);
  return pieces.flatMap(([first, ...others]) => others.slice(1).flatMap((c, i) => [first, others[i], c]));
}

function halve(polygon: readonly Vec3[], plane: CutPlane): { below: Vec3[]; above: Vec3[] } {
  if (polygon.every((p) => isAbove(p, plane))) return { below: [], above: [...polygon] };
  const out = { below: [] as Vec3[], above: [] as Vec3[] };
  polygon.forEach((p, i) => {
    const q = polygon[(i + 1) % polygon.length];
    const [dp, dq] = [above(p, plane), above(q, plane)];
    (dp > 0 ? out.above : out.below).push(p);
    if (dp > 0 === dq > 0) return;
    const crossing = between(p, q, dp / (dp - dq));
    out.below.push(crossing);
    out.above.push(crossing);
  });
  return out;
}
