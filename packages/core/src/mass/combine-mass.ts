import { worstOf } from '../geometry/accuracy.ts';
import type { MassFigures } from '../geometry/part-geometry.ts';
import { transformPoint, determinant3, type Mat4 } from '../math/mat4.ts';
import { dot, map3, scale, toVec3, type Vec3 } from '../math/vec3.ts';

/** Rows of a symmetric tensor. */
export type Matrix3 = readonly [Vec3, Vec3, Vec3];

export const matrixOf = (row: (i: number) => Vec3): Matrix3 => [row(0), row(1), row(2)];

/** Adds `weight`·(d²·1 − d·dᵀ): Steiner's parallel-axis term for a shift by `d`. */
export function shiftedInertia(m: Matrix3, d: Vec3, weight: number): Matrix3 {
  const square = dot(d, d);
  return matrixOf((i) => map3(m[i], (x, j) => x + weight * ((i === j ? square : 0) - d[i] * d[j])));
}

/** How something is spread in space, whatever there is of it: of volumes mm⁵, of masses kg·mm². */
export type Spread = Omit<MassFigures, 'volume'>;

/** Volume figures of several bodies taken together. Returns null for an empty list. */
export function combineMass(bodies: readonly MassFigures[]): MassFigures | null {
  const all = combineSpread(
    bodies,
    bodies.map((b) => b.volume),
  );
  return all && { volume: all.amount, ...all.spread };
}

/**
 * Several bodies taken together, with how much there is of each (mm³, or kg). Inertia adds about a common
 * point (Steiner's theorem), then is brought back to the common centre of gravity;
 * bounds add weighted by amount.
 * Returns null for nothing.
 */
export function combineSpread(
  bodies: readonly Spread[],
  amounts: readonly number[],
): { amount: number; spread: Spread } | null {
  let [amount, x, y, z] = [0, 0, 0, 0];
  bodies.forEach(({ centreOfGravity: c }, i) => {
    const a = amounts[i];
    amount += a;
    x += a * c[0];
    y += a * c[1];
    z += a * c[2];
  });
  if (!(amount > 0)) return null;
  const centreOfGravity: Vec3 = [x / amount, y / amount, z / amount];
  // Thousands are rolled up at every change of what is shown, so nothing is made anew for each.
  const sum = new Float64Array(9);
  bodies.forEach(({ inertia: own, centreOfGravity: c }, n) => {
    const d = [c[0] - centreOfGravity[0], c[1] - centreOfGravity[1], c[2] - centreOfGravity[2]];
    const square = d[0] * d[0] + d[1] * d[1] + d[2] * d[2];
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < 3; j++)
        sum[3 * i + j] += own[i][j] + amounts[n] * ((i === j ? square : 0) - d[i] * d[j]);
  });
  const inertia = matrixOf((i) => toVec3(sum.subarray(3 * i)));
  const spread = {
    volumeErrorEstimate: bodies.reduce((sum, b, n) => sum + b.volumeErrorEstimate * amounts[n], 0) / amount,
    centreOfGravity,
    inertia,
    accuracy: worstOf(bodies.map((b) => b.accuracy)),
  };
  return { amount, spread };
}

/** A tensor in other axes, given by their unit vectors: R·I·Rᵀ. */
export function turnedInertia(m: Matrix3, axes: readonly Vec3[]): Matrix3 {
  const [x, y, z] = axes;
  const along = (a: Vec3): Vec3 => [
    a[0] * m[0][0] + a[1] * m[1][0] + a[2] * m[2][0],
    a[0] * m[0][1] + a[1] * m[1][1] + a[2] * m[2][1],
    a[0] * m[0][2] + a[1] * m[1][2] + a[2] * m[2][2],
  ];
  const row = (h: Vec3): Vec3 => [dot(h, x), dot(h, y), dot(h, z)];
  return [row(along(x)), row(along(y)), row(along(z))];
}

/**
 * The figures of a body placed by a rigid, mirrored or uniformly scaled placement:
 * V·s³, C·s⁵ turned by R·I·Rᵀ.
 * @param times how often it is there: −1 takes it away
 */
export function placeMass(
  { volume, volumeErrorEstimate, centreOfGravity, inertia, accuracy }: MassFigures,
  m: Mat4,
  times = 1,
): MassFigures {
  const s = Math.cbrt(Math.abs(determinant3(m)));
  const rows: readonly Vec3[] = [
    [m[0] / s, m[4] / s, m[8] / s],
    [m[1] / s, m[5] / s, m[9] / s],
    [m[2] / s, m[6] / s, m[10] / s],
  ];
  const turned = turnedInertia(inertia, rows);
  const factor = times * s ** 5;
  return {
    volume: volume * times * s ** 3,
    volumeErrorEstimate,
    centreOfGravity: transformPoint(m, centreOfGravity),
    inertia:
      factor === 1 ? turned : [scale(turned[0], factor), scale(turned[1], factor), scale(turned[2], factor)],
    accuracy,
  };
}
