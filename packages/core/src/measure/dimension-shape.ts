import {
  addScaled,
  cross,
  distance,
  dot,
  length,
  normalize,
  scale,
  subtract,
  type Vec3,
} from '../math/vec3.ts';
import { ALMOST_ALONG } from '../tolerances.ts';
import type { MeasuredShape } from './measured-shape.ts';
import { footOnLine, footOnPlane, lineOfPlanes, meets, type LineOf } from './relations.ts';

/** What a figure is of, as a drawing shows it; model space. */
export type DimensionShape =
  | { kind: 'dimension'; ends: readonly [Vec3, Vec3] }
  /**
   * Between two unit directions from a place; rad. `reach`: how far from there the nearer of
   * the two things lies, mm.
   */
  | { kind: 'angle'; at: Vec3; ways: readonly [Vec3, Vec3]; angle: number; reach: number }
  /**
   * A diameter, across where it is best seen; or the radius of an arc, to the middle of
   * it. No axis: of a sphere.
   */
  | { kind: 'round'; centre: Vec3; axis: Vec3 | null; radius: number; towards: Vec3 | null };

type Straight = MeasuredShape & (LineOf & { kind: 'line' | 'turned' });
const isStraight = (s: MeasuredShape): s is Straight => s.kind === 'line' || s.kind === 'turned';

/**
 * Where the angle of two things is drawn: at their meeting, from the side on which they lie. Null where there
 * is no such place.
 */
export function angleShape(a: MeasuredShape, b: MeasuredShape, angle: number): DimensionShape | null {
  const found =
    isStraight(a) && isStraight(b)
      ? ofLines(a, b)
      : a.kind === 'plane' && b.kind === 'plane'
        ? ofPlanes(a, b)
        : isStraight(a) && b.kind === 'plane'
          ? ofLineAndPlane(a, b)
          : a.kind === 'plane' && isStraight(b)
            ? ofLineAndPlane(b, a)
            : null;
  if (!found) return null;
  const { at, ways } = found;
  // The sides on which they lie may be those of the other angle.
  const between = Math.acos(Math.max(-1, Math.min(1, dot(ways[0], ways[1]))));
  const turned = Math.abs(between - angle) > Math.abs(Math.PI - between - angle);
  const reach = Math.min(...[a, b].map((s) => ('origin' in s ? distance(s.origin, at) : 0)));
  return { kind: 'angle', at, angle, reach, ways: turned ? [ways[0], scale(ways[1], -1)] : ways };
}

type Corner = { at: Vec3; ways: readonly [Vec3, Vec3] } | null;

/** A direction, turned to the side on which a point lies. */
const towards = (way: Vec3, from: Vec3, point: Vec3): Vec3 =>
  dot(way, subtract(point, from)) < 0 ? scale(way, -1) : way;

function ofLines(a: Straight, b: Straight): Corner {
  const n = cross(a.axis, b.axis);
  if (length(n) < ALMOST_ALONG) return null;
  const t = dot(cross(subtract(b.origin, a.origin), b.axis), n) / dot(n, n);
  const at = addScaled(a.origin, a.axis, t);
  return { at, ways: [towards(a.axis, at, a.origin), towards(b.axis, at, b.origin)] };
}

function ofLineAndPlane(line: Straight, plane: LineOf): Corner {
  if (Math.abs(dot(line.axis, plane.axis)) < ALMOST_ALONG) return null;
  const at = meets(line, plane);
  const way = towards(line.axis, at, line.origin);
  const along = subtract(way, scale(plane.axis, dot(way, plane.axis)));
  if (length(along) < ALMOST_ALONG) return null;
  return { at, ways: [way, normalize(along)] };
}

function ofPlanes(a: LineOf, b: LineOf): Corner {
  if (length(cross(a.axis, b.axis)) < ALMOST_ALONG) return null;
  const line = lineOfPlanes(a, b);
  const middle = scale(
    [a.origin[0] + b.origin[0], a.origin[1] + b.origin[1], a.origin[2] + b.origin[2]],
    1 / 2,
  );
  const at = footOnLine(middle, line);
  const inPlane = (p: LineOf): Vec3 =>
    towards(normalize(cross(line.axis, p.axis)), at, footOnPlane(p.origin, p));
  return { at, ways: [inPlane(a), inPlane(b)] };
}

const STEPS = 24;

/**
 * Points along the arc of an angle, from the one direction to the other; the long way round where it is more
 * than half a turn.
 */
export function arcOfAngle(
  { at, ways: [from, to], angle }: DimensionShape & { kind: 'angle' },
  radius: number,
): Vec3[] {
  const across = subtract(to, scale(from, dot(from, to)));
  if (length(across) < ALMOST_ALONG) return [];
  const v = scale(normalize(across), angle > Math.PI ? -1 : 1);
  return Array.from({ length: STEPS + 1 }, (_, i) => {
    const t = (angle * i) / STEPS;
    return addScaled(addScaled(at, from, radius * Math.cos(t)), v, radius * Math.sin(t));
  });
}

/**
 * The two ends of a diameter that is seen in its full length, the second further right; of a radius its
 * centre and its end.
 */
export function endsOfRound(
  { centre, axis, radius, towards: arc }: DimensionShape & { kind: 'round' },
  toEye: Vec3,
  right: Vec3,
  up: Vec3,
): [Vec3, Vec3] {
  if (arc) return [centre, addScaled(centre, arc, radius)];
  const aslant = normalize([right[0] + up[0], right[1] + up[1], right[2] + up[2]]);
  const seen = axis ? cross(axis, toEye) : aslant;
  // Seen along its axis, where every diameter is in full length.
  const way =
    length(seen) < FACE_ON ? normalize(subtract(aslant, scale(toEye, dot(aslant, toEye)))) : normalize(seen);
  const sense = dot(way, right) < 0 ? -1 : 1;
  return [addScaled(centre, way, -sense * radius), addScaled(centre, way, sense * radius)];
}
/** Sine of the angle between axis and line of sight. */
const FACE_ON = 1 / 20;
