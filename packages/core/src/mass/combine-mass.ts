import type { MassFigures } from '../geometry/part-geometry.ts';
import { transformPoint, determinant3, type Mat4 } from '../math/mat4.ts';
import { add, dot, scale, subtract, type Vec3 } from '../math/vec3.ts';

type Matrix3 = readonly [Vec3, Vec3, Vec3];

const ZERO: Matrix3 = [
  [0, 0, 0],
  [0, 0, 0],
  [0, 0, 0],
];

/** Adds `weight`·(d²·1 − d·dᵀ): Steiner's parallel-axis term for a shift by `d`. */
function steiner(m: Matrix3, d: Vec3, weight: number): Matrix3 {
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
    (sum, b) => addMatrices(sum, steiner(b.inertia, subtract(b.centreOfGravity, centreOfGravity), b.volume)),
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

/** The figures of a body placed by a rigid, mirrored or uniformly scaled placement: V·s³, C·s⁵ turned by R·I·Rᵀ. */
export function placeMass(body: MassFigures, m: Mat4): MassFigures {
  const s = Math.cbrt(Math.abs(determinant3(m)));
  const r = [0, 1, 2].map((i) => [m[i] / s, m[4 + i] / s, m[8 + i] / s]);
  const turned = [0, 1, 2].map((i) =>
    [0, 1, 2].map((j) => {
      let sum = 0;
      for (let k = 0; k < 3; k++) for (let l = 0; l < 3; l++) sum += r[i][k] * body.inertia[k][l] * r[j][l];
      return sum * s ** 5;
    }),
  );
  return {
    ...body,
    volume: body.volume * s ** 3,
    centreOfGravity: transformPoint(m, body.centreOfGravity),
    inertia: turned as unknown as Matrix3,
  };
}
