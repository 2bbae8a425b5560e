import type { Point2 } from '../math/point2.ts';
import { addScaled, dot, frameOf, length, normalize, scale, subtract, type Vec3 } from '../math/vec3.ts';
import { convexHull2 } from './convex-hull-2.ts';

/** How something stands on its support. mm, rad. */
export interface Standing {
  /** Where the plumb line of the centre of gravity meets the plane of support. */
  foot: Vec3;
  /** The corners of the support, in order. */
  support: Vec3[];
  /** From the foot to the nearest side of the support; negative outside: it falls. */
  margin: number;
  /** How far it can be tipped over that side before it falls; negative where it falls by itself. */
  tip: number;
  /** The corner or side it would tip over, as its two ends. */
  over: readonly [Vec3, Vec3];
}

/** What was given makes no support, in a sentence for the user. */
export class NoSupport extends Error {
  override name = 'NoSupport';
}

/** mm. Points that are less high above the lowest stand on the ground. */
export const ON_GROUND = 0.01;

/** The points that touch the ground when something stands as it is, of its outermost ones. @param up unit */
export function groundPoints(points: ArrayLike<number>, up: Vec3): Vec3[] {
  let low = Infinity;
  for (let i = 0; i < points.length; i += 3)
    low = Math.min(low, up[0] * points[i] + up[1] * points[i + 1] + up[2] * points[i + 2]);
  const found: Vec3[] = [];
  for (let i = 0; i < points.length; i += 3) {
    const p: Vec3 = [points[i], points[i + 1], points[i + 2]];
    if (dot(p, up) - low <= ON_GROUND) found.push(p);
  }
  return found;
}

/**
 * Whether something stands on points: its centre of gravity has to lie above their convex outline. The angle
 * of tipping is atan(margin / height), the height over the plane of support (statics of a rigid body).
 * @param up unit @throws NoSupport
 */
export function standingOn(centre: Vec3, points: readonly Vec3[], up: Vec3): Standing {
  if (!points.length) throw new NoSupport('There is nothing it stands on. Pick at least three points.');
  const { u, v } = frameOf(up);
  const flat = points.map((p): Point2 => [dot(p, u), dot(p, v)]);
  const hull = convexHull2(flat);
  if (hull.length < 3)
    throw new NoSupport(
      'What it stands on lies on a line: it falls to one side. Pick points that span a surface.',
    );
  const level = Math.max(...points.map((p) => dot(p, up)));
  const lift = ([x, y]: Point2): Vec3 => addScaled(addScaled(scale(u, x), v, y), up, level);
  const [cx, cy] = [dot(centre, u), dot(centre, v)];
  let best = { margin: Infinity, at: 0 };
  hull.forEach((p, i) => {
    const q = hull[(i + 1) % hull.length];
    const [dx, dy] = [q[0] - p[0], q[1] - p[1]];
    // Counter-clockwise: inside lies to the left of each side.
    const margin = (dx * (cy - p[1]) - dy * (cx - p[0])) / Math.hypot(dx, dy);
    if (margin < best.margin) best = { margin, at: i };
  });
  const height = dot(centre, up) - level;
  return {
    foot: lift([cx, cy]),
    support: hull.map(lift),
    margin: best.margin,
    tip: Math.atan2(best.margin, Math.max(0, height)),
    over: [lift(hull[best.at]), lift(hull[(best.at + 1) % hull.length])],
  };
}

/**
 * How something hangs from a point: by which angle it turns until its centre of gravity is below, and the
 * point above it that would hold it level.
 */
export function hangingFrom(
  centre: Vec3,
  point: Vec3,
  up: Vec3,
): { tilt: number; offset: number; above: number; level: Vec3 } {
  const down = subtract(centre, point);
  const above = -dot(down, up);
  const offset = length(addScaled(down, up, above));
  return { tilt: Math.atan2(offset, above), offset, above, level: addScaled(centre, up, above) };
}

/**
 * How far a centre of gravity lies from an axis, and the torque that its weight has about it where the axis
 * lies level. N·mm
 */
export function aboutAxis(
  centre: Vec3,
  mass: number,
  origin: Vec3,
  direction: Vec3,
  up: Vec3,
): { away: number; torque: number } {
  const axis = normalize(direction);
  const d = subtract(centre, origin);
  const off = addScaled(d, axis, -dot(d, axis));
  const weight = mass * GRAVITY;
  // (d × −W·up) · axis
  const torque =
    -weight *
    (axis[0] * (off[1] * up[2] - off[2] * up[1]) +
      axis[1] * (off[2] * up[0] - off[0] * up[2]) +
      axis[2] * (off[0] * up[1] - off[1] * up[0]));
  return { away: length(off), torque };
}

/** m/s², standard gravity (3rd General Conference on Weights and Measures, 1901). */
export const GRAVITY = 9.80665;
