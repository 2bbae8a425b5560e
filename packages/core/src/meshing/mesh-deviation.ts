import type { RingMesh } from '../geometry/ring-mesh.ts';
import type { MeshedSurface } from './round-surface.ts';

/**
 * Weights of the corners of a triangle at the places that are looked at: middles of its sides, its own
 * middle; and three within.
 */
const FEW = [
  [1 / 2, 1 / 2, 0],
  [0, 1 / 2, 1 / 2],
  [1 / 2, 0, 1 / 2],
  [1 / 3, 1 / 3, 1 / 3],
] as const;
const MORE = [...FEW, [2 / 3, 1 / 6, 1 / 6], [1 / 6, 2 / 3, 1 / 6], [1 / 6, 1 / 6, 2 / 3]] as const;

/** So many triangles, the farthest off, are looked at closely: each side divided into so many parts. */
const FARTHEST = 6;
const CLOSELY = 6;
/** What may lie between the places: of a surface of second order these see 0.97 of the most. */
const BETWEEN = 1.05;

export interface Deviation {
  /** mm: how far triangles lie from their surface at most. */
  most: number;
  /** The same for each triangle, as far as was looked. */
  each: Float64Array;
}

/**
 * How far triangles lie from their surface. The distance is taken at a few places of each triangle, at more
 * where the surface is not of second order, and closely in the triangles that are farthest off; what may lie
 * between is added.
 */
export function meshDeviation(mesh: RingMesh, surface: MeshedSurface): Deviation {
  const { indices } = mesh;
  const each = new Float64Array(indices.length / 3);
  const places = surface.free ? MORE : FEW;
  const farthest: number[] = [];
  for (let t = 0; t < each.length; t++) {
    for (const [a, b, c] of places) each[t] = Math.max(each[t], offAt(mesh, surface, 3 * t, a, b, c));
    if (farthest.length === FARTHEST && each[t] <= each[farthest[FARTHEST - 1]]) continue;
    farthest.push(t);
    farthest.sort((p, q) => each[q] - each[p]);
    farthest.length = Math.min(FARTHEST, farthest.length);
  }
  for (const t of farthest)
    for (let i = 0; i <= CLOSELY; i++)
      for (let j = 0; i + j <= CLOSELY; j++)
        each[t] = Math.max(
          each[t],
          offAt(mesh, surface, 3 * t, i / CLOSELY, j / CLOSELY, 1 - (i + j) / CLOSELY),
        );
  return { most: BETWEEN * farthest.reduce((most, t) => Math.max(most, each[t]), 0), each };
}

function offAt(
  { positions: p, indices, uv }: RingMesh,
  surface: MeshedSurface,
  t: number,
  a: number,
  b: number,
  c: number,
): number {
  const [i, j, k] = [indices[t], indices[t + 1], indices[t + 2]];
  return surface.distance(
    a * p[3 * i] + b * p[3 * j] + c * p[3 * k],
    a * p[3 * i + 1] + b * p[3 * j + 1] + c * p[3 * k + 1],
    a * p[3 * i + 2] + b * p[3 * j + 2] + c * p[3 * k + 2],
    uv ? a * uv[2 * i] + b * uv[2 * j] + c * uv[2 * k] : 0,
    uv ? a * uv[2 * i + 1] + b * uv[2 * j + 1] + c * uv[2 * k + 1] : 0,
  );
}
