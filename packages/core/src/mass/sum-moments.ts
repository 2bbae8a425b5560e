import type { MassFigures } from '../geometry/part-geometry.ts';
import { add, scale, type Vec3 } from '../math/vec3.ts';

/**
 * The figures of a body from its moments {V, ∫x, ∫x·xᵀ} about a point. What is stored
 * inside out is turned right.
 * @param within relative, of the volume @returns null where there is no volume
 */
export function figuresOfMoments(
  moments: ArrayLike<number>,
  about: Vec3,
  within: number,
  accuracy: MassFigures['accuracy'],
): MassFigures | null {
  const sign = Math.sign(moments[0]);
  if (!Number.isFinite(moments[0]) || sign === 0) return null;
  const [volume, mx, my, mz, ...second] = Array.from(moments, (m) => sign * m);
  const g = scale([mx, my, mz], 1 / volume);
  const [xx, xy, xz, yy, yz, zz] = second;
  const [x, y, z] = [xx - volume * g[0] * g[0], yy - volume * g[1] * g[1], zz - volume * g[2] * g[2]];
  const [p, q, r] = [xy - volume * g[0] * g[1], xz - volume * g[0] * g[2], yz - volume * g[1] * g[2]];
  return {
    volume,
    volumeErrorEstimate: within,
    centreOfGravity: add(about, g),
    inertia: [
      [y + z, -p, -q],
      [-p, x + z, -r],
      [-q, -r, x + y],
    ],
    accuracy,
  };
}
