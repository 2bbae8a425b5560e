import type { MassFigures } from '../geometry/part-geometry.ts';
import { addScaled, cross, dot, pointAt, subtract, type Vec3 } from '../math/vec3.ts';

/**
 * Volume, centre of gravity and inertia of a closed, outward-oriented triangle mesh: signed tetrahedra against a
 * reference point inside the box (F. Tonon, Explicit exact formulas for the 3-D tetrahedron inertia tensor,
 * J. Math. Stat. 1(1), 2005). Exact for the mesh; `within` is the caller's estimate of mesh against shape.
 * @returns null when the mesh encloses no positive volume
 */
export function meshMass(positions: ArrayLike<number>, indices: ArrayLike<number>, within: number): MassFigures | null {
  const base = pointAt(positions, indices[0] ?? 0);
  let volume6 = 0;
  const first = [0, 0, 0];
  const second = [
    [0, 0, 0],
    [0, 0, 0],
    [0, 0, 0],
  ];
  for (let t = 0; t < indices.length; t += 3) {
    const a = subtract(pointAt(positions, indices[t]), base);
    const b = subtract(pointAt(positions, indices[t + 1]), base);
    const c = subtract(pointAt(positions, indices[t + 2]), base);
    const det = dot(a, cross(b, c));
    volume6 += det;
    for (let i = 0; i < 3; i++) {
      first[i] += det * (a[i] + b[i] + c[i]);
      // ∫ x_i x_j over the tetrahedron (0, a, b, c) = det/120 · (Σ v_i v_j + Σv_i · Σv_j)
      for (let j = i; j < 3; j++)
        second[i][j] += det * (a[i] * a[j] + b[i] * b[j] + c[i] * c[j] + (a[i] + b[i] + c[i]) * (a[j] + b[j] + c[j]));
    }
  }
  const volume = volume6 / 6;
  if (!(volume > 0)) return null;
  const g: Vec3 = [first[0] / (4 * volume6), first[1] / (4 * volume6), first[2] / (4 * volume6)];
  const moment = (i: number, j: number) => second[Math.min(i, j)][Math.max(i, j)] / 120 - volume * g[i] * g[j];
  const trace = moment(0, 0) + moment(1, 1) + moment(2, 2);
  const row = (i: number): Vec3 => [0, 1, 2].map((j) => (i === j ? trace : 0) - moment(i, j)) as unknown as Vec3;
  return {
    volume,
    volumeErrorEstimate: within,
    centreOfGravity: addScaled(base, g, 1),
    inertia: [row(0), row(1), row(2)],
    accuracy: { kind: 'mesh', within },
  };
}
