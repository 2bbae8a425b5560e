import type { Point2 } from '../math/point2.ts';
import { IDENTITY, multiply, type Mat4 } from '../math/mat4.ts';
import type { PartGeometry } from '../geometry/part-geometry.ts';
import { buildPartBvh } from '../picking/pick-scene.ts';
import type { CutInput } from '../section/mesh/cut-components.ts';
import { endOf, startOf, type PlaneCurve } from '../section/curves/plane-curves.ts';

export const Q = Math.PI / 2;
export const line = (from: Point2, to: Point2): PlaneCurve => ({ shape: 'line', from, to });
export const arc = (centre: Point2, radius: number, from: number, to: number): PlaneCurve => ({
  shape: 'arc',
  centre,
  radius,
  from,
  to,
});
export const circle = (centre: Point2, radius: number): PlaneCurve => arc(centre, radius, 0, 2 * Math.PI);
/** Lines from corner to corner, arcs as given: what is between is filled in. */
export const profile = (...parts: (Point2 | PlaneCurve)[]): PlaneCurve[] => {
  const ends = (p: Point2 | PlaneCurve) =>
    'shape' in p ? { start: startOf(p), end: endOf(p) } : { start: p, end: p };
  return parts.flatMap((p, i) => {
    const next = parts[(i + 1) % parts.length];
    const [a, b] = [ends(p).end, ends(next).start];
    return [
      ...('shape' in p ? [p] : []),
      ...(Math.hypot(a[0] - b[0], a[1] - b[1]) > 1e-12 ? [line(a, b)] : []),
    ];
  });
};
export const placed = (geometry: PartGeometry, placement: Mat4 = IDENTITY): CutInput => ({
  geometry,
  bvh: buildPartBvh(geometry),
  placement,
  stored: multiply(placement, IDENTITY),
});
