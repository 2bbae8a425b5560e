import { DoubleSide, Ray, Vector3 } from 'three';
import { boxDiagonal, boxSize, transformBox, type Box3 } from '../math/box3.ts';
import { invertAffine, transformPoint, type Mat4 } from '../math/mat4.ts';
import { addScaled, map3, toVec3, type Vec3, vecOf } from '../math/vec3.ts';
import { meshDistance, type SolidMesh } from './solid-mesh.ts';

/** What two meshes have in common, in A's frame. */
export interface MeshOverlap {
  /** mm³ */
  volume: number;
  /** mm³: how far the true one may be from it, by the rays' spacing and by the meshes' chords. */
  within: number;
  /** The largest ball that was found within what they share: a lower bound, mm. */
  thickest: { depth: number; at: Vec3 } | null;
}

/** Rays along each side of the box that both share: for a volume, and to see whether there is one. */
const RAYS = 96;
export const FEW_RAYS = 24;

/**
 * The common volume of two closed meshes: parallel rays along the shortest side of the box that both share,
 * the lengths within both summed up (midpoint rule). The bound takes what half the rays make of it, and the
 * chords over the surface that was met.
 * @param toA places B in A's frame
 */
export function meshOverlap(a: SolidMesh, b: SolidMesh, toA: Mat4, rays = RAYS): MeshOverlap {
  const shared = commonBox(a.box, transformBox(toA, b.box));
  if (!shared) return { volume: 0, within: 0, thickest: null };
  const size = boxSize(shared);
  const along = size.indexOf(Math.min(...size));
  const [p, q] = [(along + 1) % 3, (along + 2) % 3];
  const toB = invertAffine(toA);
  const way = vecOf((k) => (k === along ? 1 : 0));
  // From outside of both.
  const before = boxDiagonal(a.box) + boxDiagonal(b.box);
  const cell = (size[p] * size[q]) / rays ** 2;
  const halves = [0, 0];
  const runs: { length: number; middle: Vec3 }[] = [];
  let [whole, met] = [0, 0];
  for (let i = 0; i < rays; i++)
    for (let j = 0; j < rays; j++) {
      const start = [0, 0, 0];
      start[along] = shared.min[along] - before;
      start[p] = shared.min[p] + (size[p] * (i + 0.5)) / rays;
      start[q] = shared.min[q] + (size[q] * (j + 0.5)) / rays;
      const common = commonRuns(a, b, toVec3(start), way, toB);
      const length = common.reduce((sum, [from, to]) => sum + to - from, 0);
      for (const [from, to] of common)
        runs.push({ length: to - from, middle: addScaled(toVec3(start), way, (from + to) / 2) });
      whole += length * cell;
      halves[(i + j) % 2] += 2 * length * cell;
      met += 2 * common.length;
    }
  const chords = (a.chord + b.chord) * met * cell;
  return {
    volume: whole,
    within: Math.abs(halves[0] - halves[1]) + chords,
    thickest: thickestOf(a, b, runs, toB),
  };
}

function commonBox(a: Box3, b: Box3): Box3 | null {
  const min = map3(a.min, (x, k) => Math.max(x, b.min[k]));
  const max = map3(a.max, (x, k) => Math.min(x, b.max[k]));
  return min.every((x, k) => x < max[k]) ? { min, max } : null;
}

function commonRuns(a: SolidMesh, b: SolidMesh, start: Vec3, way: Vec3, toB: Mat4): [number, number][] {
  const far = addScaled(start, way, 1);
  const theirs = spans(b, transformPoint(toB, start), transformPoint(toB, far));
  return theirs.length === 0
    ? []
    : spans(a, start, far).flatMap(([from, to]) =>
        theirs.flatMap(([from2, to2]): [number, number][] => {
          const [low, high] = [Math.max(from, from2), Math.min(to, to2)];
          return high > low ? [[low, high]] : [];
        }),
      );
}

/** Where a ray runs within a mesh, by its parameter. */
function spans(mesh: SolidMesh, from: Vec3, through: Vec3): [number, number][] {
  const direction = new Vector3(...through).sub(new Vector3(...from)).normalize();
  const hits = mesh.bvh
    .raycast(new Ray(new Vector3(...from), direction), DoubleSide)
    .map((h) => ({ at: h.distance, enters: h.face!.normal.dot(direction) < 0 }))
    .sort((x, y) => x.at - y.at);
  const found: [number, number][] = [];
  let entered: number | null = null;
  for (const { at, enters } of hits) {
    if (enters) entered ??= at;
    else if (entered !== null) {
      found.push([entered, at]);
      entered = null;
    }
  }
  return found;
}

/**
 * Where it is thickest that two meshes share: middles of the longest runs, and how far
 * they are from both surfaces.
 */
function thickestOf(
  a: SolidMesh,
  b: SolidMesh,
  runs: { length: number; middle: Vec3 }[],
  toB: Mat4,
): MeshOverlap['thickest'] {
  let best: MeshOverlap['thickest'] = null;
  for (const { middle } of runs.sort((p, q) => q.length - p.length).slice(0, MOST_RUNS)) {
    const depth =
      2 * Math.min(meshDistance(a, middle).distance, meshDistance(b, transformPoint(toB, middle)).distance);
    if (depth > (best?.depth ?? 0)) best = { depth, at: middle };
  }
  return best;
}
const MOST_RUNS = 200;
