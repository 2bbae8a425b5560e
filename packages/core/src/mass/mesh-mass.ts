import type { MassFigures } from '../geometry/part-geometry.ts';
import { figuresOfMoments } from './sum-moments.ts';
import { cross, dot, length, pointAt, subtract } from '../math/vec3.ts';

/**
 * Volume, centre of gravity and inertia of a closed, outward-oriented triangle mesh:
 * signed tetrahedra against a reference point inside the box (F. Tonon, Explicit exact formulas for the 3-D
 * tetrahedron inertia tensor, J. Math. Stat. 1(1), 2005). Exact for the mesh; `within` is the caller's
 * estimate of mesh against shape.
 * @returns null when the mesh encloses no positive volume
 */
export function meshMass(
  positions: ArrayLike<number>,
  indices: ArrayLike<number>,
  within: number,
): MassFigures | null {
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
        second[i][j] +=
          det * (a[i] * a[j] + b[i] * b[j] + c[i] * c[j] + (a[i] + b[i] + c[i]) * (a[j] + b[j] + c[j]));
    }
  }
  if (!(volume6 > 0)) return null;
  const [[xx, xy, xz], [, yy, yz], [, , zz]] = second.map((row) => row.map((m) => m / 120));
  const moments = [volume6 / 6, ...first.map((m) => m / 24), xx, xy, xz, yy, yz, zz];
  return figuresOfMoments(moments, base, within, { kind: 'mesh', within });
}

/** mm², of triangles. */
export function areaOfMesh({
  positions,
  indices,
}: {
  positions: ArrayLike<number>;
  indices: ArrayLike<number>;
}): number {
  let sum = 0;
  for (let t = 0; t < indices.length; t += 3) {
    const a = pointAt(positions, indices[t]);
    sum +=
      length(
        cross(
          subtract(pointAt(positions, indices[t + 1]), a),
          subtract(pointAt(positions, indices[t + 2]), a),
        ),
      ) / 2;
  }
  return sum;
}
