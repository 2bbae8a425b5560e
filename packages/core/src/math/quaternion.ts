import { SAME_ORIENTATION, STRAIGHT_MIX } from '../tolerances.ts';
import { cross, dot, frameOf, normalize, type Vec3 } from './vec3.ts';

/** Unit quaternion x, y, z, w. */
export type Quaternion = readonly [number, number, number, number];

export const multiplyQuaternions = (a: Quaternion, b: Quaternion): Quaternion => [
  a[3] * b[0] + a[0] * b[3] + a[1] * b[2] - a[2] * b[1],
  a[3] * b[1] - a[0] * b[2] + a[1] * b[3] + a[2] * b[0],
  a[3] * b[2] + a[0] * b[1] - a[1] * b[0] + a[2] * b[3],
  a[3] * b[3] - a[0] * b[0] - a[1] * b[1] - a[2] * b[2],
];

export const unitQuaternion = (q: Quaternion): Quaternion => {
  const l = Math.hypot(...q);
  return [q[0] / l, q[1] / l, q[2] / l, q[3] / l];
};

/** Turn by `angle` rad about the unit vector `axis`, right-handed. */
export function rotationAbout(axis: Vec3, angle: number): Quaternion {
  const s = Math.sin(angle / 2);
  return [axis[0] * s, axis[1] * s, axis[2] * s, Math.cos(angle / 2)];
}

export function rotate(q: Quaternion, v: Vec3): Vec3 {
  const u: Vec3 = [q[0], q[1], q[2]];
  const t = cross(u, v);
  const t2 = cross(u, [t[0] + q[3] * v[0], t[1] + q[3] * v[1], t[2] + q[3] * v[2]]);
  return [v[0] + 2 * t2[0], v[1] + 2 * t2[1], v[2] + 2 * t2[2]];
}

/**
 * The turn whose frame has the given orthonormal axes as its X, Y and Z. (Shepperd, J.
 * Guidance and Control 1, 1978.)
 */
export function quaternionFromAxes(x: Vec3, y: Vec3, z: Vec3): Quaternion {
  const trace = x[0] + y[1] + z[2];
  if (trace > 0) {
    const s = 2 * Math.sqrt(1 + trace);
    return [(y[2] - z[1]) / s, (z[0] - x[2]) / s, (x[1] - y[0]) / s, s / 4];
  }
  if (x[0] > y[1] && x[0] > z[2]) {
    const s = 2 * Math.sqrt(1 + x[0] - y[1] - z[2]);
    return [s / 4, (y[0] + x[1]) / s, (z[0] + x[2]) / s, (y[2] - z[1]) / s];
  }
  if (y[1] > z[2]) {
    const s = 2 * Math.sqrt(1 + y[1] - x[0] - z[2]);
    return [(y[0] + x[1]) / s, s / 4, (z[1] + y[2]) / s, (z[0] - x[2]) / s];
  }
  const s = 2 * Math.sqrt(1 + z[2] - x[0] - y[1]);
  return [(z[0] + x[2]) / s, (z[1] + y[2]) / s, s / 4, (x[1] - y[0]) / s];
}

/** Turns between a and b along the shorter way at constant speed (Shoemake, SIGGRAPH 1985). */
export function slerp(a: Quaternion, b: Quaternion, t: number): Quaternion {
  let d = a[0] * b[0] + a[1] * b[1] + a[2] * b[2] + a[3] * b[3];
  const sign = d < 0 ? -1 : 1;
  d *= sign;
  const angle = Math.acos(Math.min(1, d));
  const sin = Math.sin(angle);
  const [wa, wb] =
    sin < STRAIGHT_MIX ? [1 - t, t] : [Math.sin((1 - t) * angle) / sin, Math.sin(t * angle) / sin];
  return unitQuaternion([0, 1, 2, 3].map((i) => wa * a[i] + wb * sign * b[i]) as unknown as Quaternion);
}

/**
 * The orientation of an eye that looks from `direction` (from the model to the eye), with
 * `up` upright on the screen.
 */
export function lookFrom(direction: Vec3, up: Vec3): Quaternion {
  const z = normalize(direction);
  const level = Math.abs(dot(z, normalize(up))) > 1 - SAME_ORIENTATION ? frameOf(z).v : up;
  const x = normalize(cross(level, z));
  return quaternionFromAxes(x, cross(z, x), z);
}
