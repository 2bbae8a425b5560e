import type { FaceFacts } from '../geometry/part-geometry.ts';
import { highestBetween } from '../math/golden-section.ts';
import { addScaled, dot, frameOf, subtract, type Vec3 } from '../math/vec3.ts';
import { ALMOST_ALONG, SAME_DEPTH } from '../tolerances.ts';
import type { AxisLine } from './face-loops.ts';

/** An end of a bore: where it is along the axis, and the face that its wall ends on, if that may lean. */
export interface WallEnd {
  height: number;
  onto: FaceFacts | null;
}

/**
 * Directions round an axis in which the depth along the wall is taken; the extremes are
 * then found between them.
 */
const ROUND = 720;
const GOLDEN_STEPS = 50;

/**
 * mm: least and greatest depth along the wall of a bore; null where both ends are square to it, or on a face
 * that tells no place in closed form.
 */
export function depthAlongWall(
  bore: AxisLine & { radius: number },
  low: WallEnd,
  high: WallEnd,
): { least: number; greatest: number } | null {
  const leans = [low, high].map(({ onto }) => onto !== null && !isSquare(onto, bore));
  if (!leans[0] && !leans[1]) return null;
  const { u, v } = frameOf(bore.axis);
  const [from, to] = [low, high].map((end, i) =>
    leans[i] ? heightRound(bore, end, u, v) : () => end.height,
  );
  if (!from || !to) return null;
  const depth = (t: number) => to(t) - from(t);
  const step = (2 * Math.PI) / ROUND;
  const depths = Array.from({ length: ROUND }, (_, i) => depth(i * step));
  const extreme = (sign: 1 | -1) => {
    const at = depths.reduce((best, d, i) => (sign * d > sign * depths[best] ? i : best), 0);
    return (
      sign * highestBetween((t) => sign * depth(t), (at - 1) * step, (at + 1) * step, GOLDEN_STEPS).value
    );
  };
  const [least, greatest] = [extreme(-1), extreme(1)];
  const axial = Math.abs(high.height - low.height);
  return [least, greatest].some((d) => Math.abs(d - axial) > SAME_DEPTH * axial) ? { least, greatest } : null;
}

const isSquare = (face: FaceFacts, { axis }: AxisLine): boolean =>
  face.surface === 'plane' && Math.abs(dot(face.axis!, axis)) > 1 - ALMOST_ALONG ** 2;

/**
 * Where the wall ends at each angle about the axis; null where the face it comes out of has no
 * such place in closed form.
 */
function heightRound(
  bore: AxisLine & { radius: number },
  { onto, height }: WallEnd,
  u: Vec3,
  v: Vec3,
): ((t: number) => number) | null {
  const face = onto!;
  if (!['plane', 'cylinder', 'sphere'].includes(face.surface)) return null;
  return (t) => {
    const origin = addScaled(
      addScaled(bore.origin, u, bore.radius * Math.cos(t)),
      v,
      bore.radius * Math.sin(t),
    );
    return crossingNearest(face, { origin, axis: bore.axis }, height) ?? height;
  };
}

/**
 * The height nearest to another at which an axis meets a plane, a cylinder or a sphere;
 * undefined where it meets none.
 */
export const crossingNearest = (face: FaceFacts, line: AxisLine, height: number): number | undefined =>
  crossings(face, line).sort((a, b) => Math.abs(a - height) - Math.abs(b - height))[0];

/** Heights at which an axis meets a plane, a cylinder or a sphere. */
function crossings(f: FaceFacts, line: AxisLine): number[] {
  if (f.surface === 'plane') {
    const slope = dot(f.axis!, line.axis);
    return Math.abs(slope) < ALMOST_ALONG ? [] : [dot(subtract(f.origin!, line.origin), f.axis!) / slope];
  }
  if (f.surface !== 'cylinder' && f.surface !== 'sphere') return [];
  const across = (v: Vec3): Vec3 => (f.surface === 'sphere' ? v : addScaled(v, f.axis!, -dot(v, f.axis!)));
  const [d, way] = [across(subtract(line.origin, f.origin!)), across(line.axis)];
  const [a, b, c] = [dot(way, way), dot(d, way), dot(d, d) - f.radius! ** 2];
  const root = Math.sqrt(b * b - a * c);
  return a > ALMOST_ALONG && root >= 0 ? [(-b - root) / a, (-b + root) / a] : [];
}
