import type { MassFigures } from '../geometry/part-geometry.ts';
import { transformPoint, determinant3, type Mat4 } from '../math/mat4.ts';
import { add, dot, scale, subtract, type Vec3 } from '../math/vec3.ts';

/** Rows of a symmetric tensor. */
export type Matrix3 = readonly [Vec3, Vec3, Vec3];

const ZERO: Matrix3 = [
  [0, 0, 0],
  [0, 0, 0],
  [0, 0, 0],
];

/** Adds `weight`·(d²·1 − d·dᵀ): Steiner's parallel-axis term for a shift by `d`. */
export function shiftedInertia(m: Matrix3, d: Vec3, weight: number): Matrix3 {
  const square = dot(d, d);
  return m.map((row, i) => row.map((x, j) => x + weight * ((i === j ? square : 0) - d[i] * d[j])) as unknown as Vec3) as unknown as Matrix3;
}

const addMatrices = (a: Matrix3, b: Matrix3): Matrix3 => a.map((row, i) => add(row, b[i])) as unknown as Matrix3;

/**
 * Volume figures of several bodies taken together. Inertia adds about a common point (Steiner's theorem), then is
 * brought back to the common centre of gravity; bounds add weighted by volume. Returns null for an empty list.
 */
export function combineMass(bodies: readonly MassFigures[]): MassFigures | null {
  const volume = bodies.reduce((sum, b) => sum + b.volume, 0);
  if (bodies.length === 0 || !(volume > 0)) return null;
  const centreOfGravity = scale(
    bodies.reduce<Vec3>((sum, b) => add(sum, scale(b.centreOfGravity, b.volume)), [0, 0, 0]),
    1 / volume,
  );
  const inertia = bodies.reduce<Matrix3>(
    (sum, b) => addMatrices(sum, shiftedInertia(b.inertia, subtract(b.centreOfGravity, centreOfGravity), b.volume)),
    ZERO,
  );
  const meshed = bodies.flatMap((b) => (b.accuracy.kind === 'mesh' ? [b.accuracy.within] : []));
  return {
    volume,
    volumeErrorEstimate: bodies.reduce((sum, b) => sum + b.volumeErrorEstimate * b.volume, 0) / volume,
    centreOfGravity,
    inertia,
    accuracy: meshed.length ? { kind: 'mesh', within: Math.max(...meshed) } : { kind: 'exact' },
  };
}

/** A tensor in other axes, given by their unit vectors: R·I·Rᵀ. */
export const turnedInertia = (m: Matrix3, axes: readonly Vec3[]): Matrix3 =>
  axes.map((a) => axes.map((b) => a.reduce((sum, x, k) => sum + x * dot(m[k], b), 0))) as unknown as Matrix3;

/** The figures of a body placed by a rigid, mirrored or uniformly scaled placement: V·s³, C·s⁵ turned by R·I·Rᵀ. */
export function placeMass(body: MassFigures, m: Mat4): MassFigures {
  const s = Math.cbrt(Math.abs(determinant3(m)));
  const rows = [0, 1, 2].map((i): Vec3 => [m[i] / s, m[4 + i] / s, m[8 + i] / s]);
  const turned = turnedInertia(body.inertia, rows);
  return {
    ...body,
    volume: body.volume * s ** 3,
    centreOfGravity: transformPoint(m, body.centreOfGravity),
    inertia: s === 1 ? turned : (turned.map((row) => scale(row, s ** 5)) as unknown as Matrix3),
  };
}
