/** A point or direction as three numbers. Plain tuples, so that they cross workers and JSON unchanged. */
export type Vec3 = readonly [number, number, number];

export const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const subtract = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const scale = (a: Vec3, s: number): Vec3 => [a[0] * s, a[1] * s, a[2] * s];
export const addScaled = (a: Vec3, b: Vec3, s: number): Vec3 => [
  a[0] + b[0] * s,
  a[1] + b[1] * s,
  a[2] + b[2] * s,
];
export const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
export const length = (a: Vec3): number => Math.hypot(a[0], a[1], a[2]);
export const distance = (a: Vec3, b: Vec3): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

/** A vector of what is said for each axis, 0 to 2. */
/** The first three of some numbers. */
export const toVec3 = (of: ArrayLike<number>): Vec3 => [of[0], of[1], of[2]];
export const vecOf = (along: (axis: number) => number): Vec3 => [along(0), along(1), along(2)];
/** A vector of what becomes of each of three values. */
export const map3 = <T>(of: ArrayLike<T>, to: (value: T, axis: number) => number): Vec3 => [
  to(of[0], 0),
  to(of[1], 1),
  to(of[2], 2),
];

/** Unit vector along `a`; the zero vector stays zero, so callers test the length where it matters. */
export function normalize(a: Vec3): Vec3 {
  const l = length(a);
  return l > 0 ? [a[0] / l, a[1] / l, a[2] / l] : [0, 0, 0];
}

/** Two unit vectors that make a right-handed frame with the unit vector `n`: u × v = n. */
export function frameOf(n: Vec3): { u: Vec3; v: Vec3 } {
  const helper: Vec3 = Math.abs(n[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0];
  const u = normalize(cross(helper, n));
  return { u, v: cross(n, u) };
}

/** The n-th point of a flat xyz array. */
export const pointAt = (flat: ArrayLike<number>, n: number): Vec3 => [
  flat[3 * n],
  flat[3 * n + 1],
  flat[3 * n + 2],
];
