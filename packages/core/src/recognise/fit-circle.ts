import { solveLeastSquares, symmetricEigen3 } from '../math/eigen.ts';
import {
  add,
  addScaled,
  cross,
  dot,
  frameOf,
  length,
  normalize,
  scale,
  subtract,
  type Vec3,
} from '../math/vec3.ts';

export interface FittedLine {
  origin: Vec3;
  axis: Vec3;
  deviation: number;
}
export interface FittedCircle {
  centre: Vec3;
  axis: Vec3;
  radius: number;
  deviation: number;
}

export function centroidOf(points: readonly Vec3[]): Vec3 {
  return scale(
    points.reduce<Vec3>((sum, p) => add(sum, p), [0, 0, 0]),
    1 / points.length,
  );
}

/** Scatter matrix Σ (p − c)(p − c)ᵀ. */
export function scatterOf(points: readonly Vec3[], c: Vec3): number[][] {
  const m = [
    [0, 0, 0],
    [0, 0, 0],
    [0, 0, 0],
  ];
  for (const p of points) {
    const d = subtract(p, c);
    for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) m[i][j] += d[i] * d[j];
  }
  return m;
}

/**
 * Line through the points by orthogonal least squares (principal direction of their scatter); `deviation` is
 * the largest distance, mm.
 */
export function fitLine(points: readonly Vec3[]): FittedLine {
  const origin = centroidOf(points);
  const axis = normalize(symmetricEigen3(scatterOf(points, origin)).vectors[2]);
  const oriented = dot(axis, subtract(points[points.length - 1], points[0])) < 0 ? scale(axis, -1) : axis;
  const deviation = Math.max(...points.map((p) => length(cross(subtract(p, origin), axis))));
  return { origin, axis: oriented, deviation };
}

/**
 * Circle through points given in a plane: algebraic least squares (Kåsa, IEEE Trans.
 * Instrum. Meas. 25, 1976), which is exact for exact data. Returns null for collinear points.
 */
export function fitCircle2(
  xy: readonly (readonly [number, number])[],
): { x: number; y: number; radius: number } | null {
  const solution = solveLeastSquares(
    xy.map(([x, y]) => [x, y, 1]),
    xy.map(([x, y]) => x * x + y * y),
  );
  if (!solution) return null;
  const [x, y] = [solution[0] / 2, solution[1] / 2];
  const square = solution[2] + x * x + y * y;
  return square > 0 ? { x, y, radius: Math.sqrt(square) } : null;
}

/**
 * Circle through points in space; null when they are collinear. `deviation`: largest distance of a
 * point from the circle, mm.
 */
export function fitCircle(points: readonly Vec3[]): FittedCircle | null {
  const c = centroidOf(points);
  let axis = normalize(symmetricEigen3(scatterOf(points, c)).vectors[0]);
  // Oriented by the run of the points, so that the arc turns counter-clockwise about its axis.
  const turn = dot(cross(subtract(points[0], c), subtract(points[Math.max(1, points.length >> 2)], c)), axis);
  if (turn < 0) axis = scale(axis, -1);
  const { u, v } = frameOf(axis);
  const flat = fitCircle2(points.map((p) => [dot(subtract(p, c), u), dot(subtract(p, c), v)] as const));
  if (!flat) return null;
  const centre = addScaled(addScaled(c, u, flat.x), v, flat.y);
  const deviation = Math.max(...points.map((p) => distanceToCircle(p, centre, axis, flat.radius)));
  return { centre, axis, radius: flat.radius, deviation };
}

function distanceToCircle(p: Vec3, centre: Vec3, axis: Vec3, radius: number): number {
  const d = subtract(p, centre);
  const height = dot(d, axis);
  return Math.hypot(length(addScaled(d, axis, -height)) - radius, height);
}
