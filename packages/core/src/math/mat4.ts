import type { Vec3 } from './vec3.ts';

/** A placement: 4×4, column-major (translation in 12…14), as in OpenGL and three.js. */
export type Mat4 = readonly number[];

export const IDENTITY: Mat4 = Object.freeze([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);

/** a · b: first b is applied, then a. */
export function multiply(a: Mat4, b: Mat4): Mat4 {
  const out = new Array<number>(16).fill(0);
  for (let column = 0; column < 4; column++)
    for (let row = 0; row < 4; row++)
      for (let k = 0; k < 4; k++) out[column * 4 + row] += a[k * 4 + row] * b[column * 4 + k];
  return out;
}

export const transformPoint = (m: Mat4, p: Vec3): Vec3 => [
  m[0] * p[0] + m[4] * p[1] + m[8] * p[2] + m[12],
  m[1] * p[0] + m[5] * p[1] + m[9] * p[2] + m[13],
  m[2] * p[0] + m[6] * p[1] + m[10] * p[2] + m[14],
];

export const transformDirection = (m: Mat4, d: Vec3): Vec3 => [
  m[0] * d[0] + m[4] * d[1] + m[8] * d[2],
  m[1] * d[0] + m[5] * d[1] + m[9] * d[2],
  m[2] * d[0] + m[6] * d[1] + m[10] * d[2],
];

/** Determinant of the linear part: 1 for a rigid placement, negative for a mirrored one. */
export const determinant3 = (m: Mat4): number =>
  m[0] * (m[5] * m[10] - m[9] * m[6]) -
  m[4] * (m[1] * m[10] - m[9] * m[2]) +
  m[8] * (m[1] * m[6] - m[5] * m[2]);

export const isMirrored = (m: Mat4): boolean => determinant3(m) < 0;

/** Inverse of an affine placement. Throws RangeError when the linear part is singular. */
export function invertAffine(m: Mat4): Mat4 {
  const det = determinant3(m);
  if (det === 0 || !Number.isFinite(det))
    throw new RangeError('This placement has no inverse: its linear part is singular.');
  const r = [
    (m[5] * m[10] - m[9] * m[6]) / det,
    (m[9] * m[2] - m[1] * m[10]) / det,
    (m[1] * m[6] - m[5] * m[2]) / det,
    (m[8] * m[6] - m[4] * m[10]) / det,
    (m[0] * m[10] - m[8] * m[2]) / det,
    (m[4] * m[2] - m[0] * m[6]) / det,
    (m[4] * m[9] - m[8] * m[5]) / det,
    (m[8] * m[1] - m[0] * m[9]) / det,
    (m[0] * m[5] - m[4] * m[1]) / det,
  ];
  const t = [m[12], m[13], m[14]];
  return [
    r[0],
    r[1],
    r[2],
    0,
    r[3],
    r[4],
    r[5],
    0,
    r[6],
    r[7],
    r[8],
    0,
    -(r[0] * t[0] + r[3] * t[1] + r[6] * t[2]),
    -(r[1] * t[0] + r[4] * t[1] + r[7] * t[2]),
    -(r[2] * t[0] + r[5] * t[1] + r[8] * t[2]),
    1,
  ];
}

/** The turning part transposed, which is the inverse of a rotation or mirroring; without the shift. */
export const transposed = (m: Mat4): Mat4 => [
  m[0],
  m[4],
  m[8],
  0,
  m[1],
  m[5],
  m[9],
  0,
  m[2],
  m[6],
  m[10],
  0,
  0,
  0,
  0,
  1,
];
