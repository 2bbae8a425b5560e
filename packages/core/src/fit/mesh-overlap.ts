import { DoubleSide, Ray, Vector3 } from 'three';
import { boxSize, transformBox, type Box3 } from '../math/box3.ts';
import { invertAffine, transformPoint, type Mat4 } from '../math/mat4.ts';
import { addScaled, pointAt, type Vec3 } from '../math/vec3.ts';
import { isInside, meshDistance, type SolidMesh } from './solid-mesh.ts';

/** What two meshes have in common, in A's frame. */
export interface MeshOverlap {
  /** mm³ */
  volume: number;
  /** mm³: how far the true one may be from it, by the rays' spacing and by the meshes' chords. */
  within: number;
}

/** Rays along each side of the box that both share. */
const RAYS = 96;

/**
 * The common volume of two closed meshes: parallel rays along the shortest side of the box that both share, the lengths within both
 * summed up (midpoint rule). The bound takes what half the rays make of it, and the chords over the surface that was met.
 * @param toA places B in A's frame
 */
export function meshOverlap(a: SolidMesh, b: SolidMesh, toA: Mat4): MeshOverlap {
  const shared = commonBox(a.box, transformBox(toA, b.box));
  if (!shared) return { volume: 0, within: 0 };
  const size = boxSize(shared);
  const along = size.indexOf(Math.min(...size));
  const [p, q] = [(along + 1) % 3, (along + 2) % 3];
  const toB = invertAffine(toA);
  const way = [0, 1, 2].map((k) => (k === along ? 1 : 0)) as unknown as Vec3;
  const cell = (size[p] * size[q]) / RAYS ** 2;
  const halves = [0, 0];
  let [whole, met] = [0, 0];
  for (let i = 0; i < RAYS; i++)
    for (let j = 0; j < RAYS; j++) {
      const start = [0, 0, 0];
      start[along] = shared.min[along] - size[along];
      start[p] = shared.min[p] + (size[p] * (i + 0.5)) / RAYS;
      start[q] = shared.min[q] + (size[q] * (j + 0.5)) / RAYS;
      const { length, crossings } = commonLength(a, b, start as unknown as Vec3, way, toB);
      whole += length * cell;
      halves[(i + j) % 2] += 2 * length * cell;
      met += crossings;
    }
  const chords = (a.chord + b.chord) * met * cell;
  return { volume: whole, within: Math.abs(halves[0] - halves[1]) + chords };
}

function commonBox(a: Box3, b: Box3): Box3 | null {
  const min = a.min.map((x, k) => Math.max(x, b.min[k])) as unknown as Vec3;
  const max = a.max.map((x, k) => Math.min(x, b.max[k])) as unknown as Vec3;
  return min.every((x, k) => x < max[k]) ? { min, max } : null;
}

function commonLength(a: SolidMesh, b: SolidMesh, start: Vec3, way: Vec3, toB: Mat4): { length: number; crossings: number } {
  const far = addScaled(start, way, 1);
  const [mine, theirs] = [spans(a, start, far), spans(b, transformPoint(toB, start), transformPoint(toB, far))];
  let [length, crossings] = [0, 0];
  for (const [from, to] of mine)
    for (const [start2, end2] of theirs) {
      const common = Math.min(to, end2) - Math.max(from, start2);
      if (common <= 0) continue;
      length += common;
      crossings += 2;
    }
  return { length, crossings };
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

/** The corner of one mesh that lies deepest within the other, mm below its surface; in A's frame. @param toA places B in A's frame */
export function deepestCorner(a: SolidMesh, b: SolidMesh, toA: Mat4): { depth: number; point: Vec3 } | null {
  const toB = invertAffine(toA);
  const ofA = deepestOf(a, b, toB);
  const ofB = deepestOf(b, a, toA);
  const inA = ofB && { ...ofB, point: transformPoint(toA, ofB.point) };
  return ofA && (!inA || ofA.depth >= inA.depth) ? ofA : inA;
}

function deepestOf(of: SolidMesh, within: SolidMesh, to: Mat4): { depth: number; point: Vec3 } | null {
  let deepest: { depth: number; point: Vec3 } | null = null;
  const { min, max } = within.box;
  for (let i = 0; i < of.positions.length / 3; i++) {
    const point = pointAt(of.positions, i);
    const there = transformPoint(to, point);
    if (there.some((x, k) => x < min[k] || x > max[k])) continue;
    const { distance: depth } = meshDistance(within, there);
    if (depth > (deepest?.depth ?? 0) && isInside(within, there)) deepest = { depth, point };
  }
  return deepest;
}
