import { addScaled, cross, distance, dot, length, scale, subtract, type Vec3 } from '../math/vec3.ts';
import { ALMOST_ALONG } from '../tolerances.ts';

/**
 * How two directions, or two places, stand to each other: judged by what the deviation does over the size of
 * the smaller thing.
 */
export interface Judged {
  /** `is`: within what the file can tell; `nearly`: within ten times that; `not`. */
  answer: 'is' | 'nearly' | 'not';
  /** mm over the size, or mm. */
  deviation: number;
}

const NEARLY = 10;

/** The one place that decides what counts as parallel, square, in line or the same. @param deviation mm */
export const judge = (deviation: number, within: number): Judged => ({
  deviation,
  answer: deviation <= within ? 'is' : deviation <= NEARLY * within ? 'nearly' : 'not',
});

/** rad, 0 … π/2: between two lines, whichever way they run. */
export const angleOfLines = (a: Vec3, b: Vec3): number =>
  Math.atan2(length(cross(a, b)), Math.abs(dot(a, b)));

export const parallel = (a: Vec3, b: Vec3, size: number, within: number): Judged =>
  judge(length(cross(a, b)) * size, within);

export const square = (a: Vec3, b: Vec3, size: number, within: number): Judged =>
  judge(Math.abs(dot(a, b)) * size, within);

export interface LineOf {
  origin: Vec3;
  axis: Vec3;
}

/** The foot of a point on a line. */
export const footOnLine = (p: Vec3, { origin, axis }: LineOf): Vec3 =>
  addScaled(origin, axis, dot(subtract(p, origin), axis));

export const footOnPlane = (p: Vec3, { origin, axis }: LineOf): Vec3 =>
  addScaled(p, axis, -dot(subtract(p, origin), axis));

/**
 * The nearest points of two lines that are not parallel (P. J. Schneider, D. H. Eberly, Geometric Tools for
 * Computer Graphics, 10.8).
 */
export function nearestOfLines(a: LineOf, b: LineOf): [Vec3, Vec3] {
  const d = subtract(b.origin, a.origin);
  const n = cross(a.axis, b.axis);
  const square_ = dot(n, n);
  if (square_ < ALMOST_ALONG ** 2) return [a.origin, footOnLine(a.origin, b)];
  return [
    addScaled(a.origin, a.axis, dot(cross(d, b.axis), n) / square_),
    addScaled(b.origin, b.axis, dot(cross(d, a.axis), n) / square_),
  ];
}

/** Where a line meets a plane that it is not parallel to. */
export const meets = (line: LineOf, plane: LineOf): Vec3 =>
  addScaled(
    line.origin,
    line.axis,
    dot(subtract(plane.origin, line.origin), plane.axis) / dot(line.axis, plane.axis),
  );

/** A point of the line in which two planes meet, nearest to the first one's origin, and its direction. */
export function lineOfPlanes(a: LineOf, b: LineOf): LineOf {
  const across = cross(a.axis, b.axis);
  const axis = scale(across, 1 / length(across));
  const down = cross(axis, a.axis);
  return { origin: meets({ origin: a.origin, axis: down }, b), axis };
}

/** mm from a point to a circle's curve. */
export function toCircle(p: Vec3, centre: Vec3, axis: Vec3, radius: number): number {
  const height = dot(subtract(p, centre), axis);
  return Math.hypot(height, distance(footOnPlane(p, { origin: centre, axis }), centre) - radius);
}
