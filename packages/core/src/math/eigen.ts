import { SINGULAR } from '../tolerances.ts';
import { toVec3, type Vec3 } from './vec3.ts';

export interface EigenDecomposition {
  /** Ascending. */
  values: number[];
  /** `vectors[k]` is the unit eigenvector that belongs to `values[k]`. */
  vectors: number[][];
}

const MAX_SWEEPS = 60;

/**
 * Eigenvalues and eigenvectors of a real symmetric n×n matrix by cyclic Jacobi rotations (Golub & Van Loan,
 * Matrix Computations, section 8.5), accurate to rounding for small n.
 */
export function symmetricEigen(matrix: readonly (readonly number[])[]): EigenDecomposition {
  const n = matrix.length;
  const a = matrix.map((row) => [...row]);
  const v = a.map((_, i) => a.map((__, j) => (i === j ? 1 : 0)));

  for (let sweep = 0; sweep < MAX_SWEEPS; sweep++) {
    let off = 0;
    for (let p = 0; p < n; p++) for (let q = p + 1; q < n; q++) off += a[p][q] * a[p][q];
    if (off === 0) break;
    for (let p = 0; p < n; p++) for (let q = p + 1; q < n; q++) rotate(a, v, p, q);
  }

  const order = a.map((_, i) => i).sort((i, j) => a[i][i] - a[j][j]);
  return { values: order.map((i) => a[i][i]), vectors: order.map((i) => v.map((row) => row[i])) };
}

/** One Jacobi rotation that zeroes a[p][q], applied to the matrix and to the gathered vectors. */
function rotate(a: number[][], v: number[][], p: number, q: number): void {
  if (a[p][q] === 0) return;
  const theta = (a[q][q] - a[p][p]) / (2 * a[p][q]);
  const t = Math.sign(theta || 1) / (Math.abs(theta) + Math.hypot(theta, 1));
  const c = 1 / Math.hypot(t, 1);
  const s = t * c;
  for (let k = 0; k < a.length; k++) {
    const akp = a[k][p];
    const akq = a[k][q];
    a[k][p] = c * akp - s * akq;
    a[k][q] = s * akp + c * akq;
  }
  for (let k = 0; k < a.length; k++) {
    const apk = a[p][k];
    const aqk = a[q][k];
    a[p][k] = c * apk - s * aqk;
    a[q][k] = s * apk + c * aqk;
    const vkp = v[k][p];
    const vkq = v[k][q];
    v[k][p] = c * vkp - s * vkq;
    v[k][q] = s * vkp + c * vkq;
  }
  a[p][q] = a[q][p] = 0;
}

/**
 * Least-squares solution of A·x = b through the normal equations and Gaussian elimination with partial
 * pivoting; null when the columns of A are dependent. For the few unknowns of a surface fit.
 */
export function solveLeastSquares(
  rows: readonly (readonly number[])[],
  b: readonly number[],
): number[] | null {
  const n = rows[0]?.length ?? 0;
  const m = Array.from({ length: n }, () => new Array<number>(n + 1).fill(0));
  rows.forEach((row, r) => {
    for (let i = 0; i < n; i++) {
      for (let j = 0; j < n; j++) m[i][j] += row[i] * row[j];
      m[i][n] += row[i] * b[r];
    }
  });
  const size = Math.max(...m.map((row, i) => Math.abs(row[i])), 0);
  for (let i = 0; i < n; i++) {
    let pivot = i;
    for (let r = i + 1; r < n; r++) if (Math.abs(m[r][i]) > Math.abs(m[pivot][i])) pivot = r;
    if (Math.abs(m[pivot][i]) <= size * SINGULAR) return null;
    [m[i], m[pivot]] = [m[pivot], m[i]];
    for (let r = 0; r < n; r++) {
      if (r === i) continue;
      const f = m[r][i] / m[i][i];
      for (let k = i; k <= n; k++) m[r][k] -= f * m[i][k];
    }
  }
  return m.map((row, i) => row[n] / row[i]);
}

/** The same of a tensor in space: moments ascending, and their unit axes. */
export function symmetricEigen3(matrix: readonly (readonly number[])[]): {
  values: Vec3;
  vectors: readonly [Vec3, Vec3, Vec3];
} {
  const { values, vectors } = symmetricEigen(matrix);
  return { values: toVec3(values), vectors: [toVec3(vectors[0]), toVec3(vectors[1]), toVec3(vectors[2])] };
}
