import type { Mat4 } from '../math/mat4.ts';
import { rotate, rotationAbout } from '../math/quaternion.ts';
import { normalize, type Vec3 } from '../math/vec3.ts';

/** Moved, and turned by 0.7 rad about an axis. */
export const placed = (m: Vec3, turn: Vec3 = [1, 0, 0]): Mat4 => {
  const q = rotationAbout(normalize(turn), 0.7);
  const [x, y, z] = (
    [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ] as Vec3[]
  ).map((a) => rotate(q, a));
  return [...x, 0, ...y, 0, ...z, 0, ...m, 1];
};
