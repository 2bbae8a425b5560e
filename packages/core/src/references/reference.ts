import type { EdgeFacts, FaceFacts, PartGeometry } from '../geometry/part-geometry.ts';
import { distance, dot, pointAt, type Vec3 } from '../math/vec3.ts';
import type { ComponentPath } from '../model/structure.ts';

/** What a thing looked like when it was referred to: enough to find it again in a later revision. Part's own frame, mm. */
export interface Fingerprint {
  /** Surface or curve kind, or `vertex`. */
  shape: string;
  /** Area or length; 0 for a vertex. */
  size: number;
  radius?: number;
  axis?: Vec3;
  /** A point that belongs to it: of the axis, the centre, the middle of the mesh or line. */
  position: Vec3;
}

/** A thing of a model, named so that notes, measurements and views can keep hold of it. */
export type Reference =
  | { kind: 'component'; component: ComponentPath }
  | { kind: 'body'; component: ComponentPath; index: number }
  | { kind: 'face' | 'edge' | 'vertex'; component: ComponentPath; index: number; fingerprint: Fingerprint }
  | { kind: 'point'; on: 'face' | 'edge'; component: ComponentPath; index: number; position: Vec3; fingerprint: Fingerprint }
  | { kind: 'derived'; what: 'circle centre' | 'cylinder axis' | 'midpoint'; of: Reference }
  | { kind: 'reference geometry'; what: 'plane' | 'axis' | 'origin'; id: string }
  | { kind: 'section'; what: 'cap' | 'outline' | 'corner'; plane: string; component: ComponentPath; position: Vec3 }
  | { kind: 'mesh region'; component: ComponentPath; triangles: number[] };

export type Found = { status: 'found' | 'probably found'; index: number } | { status: 'lost' };

/** mm: positions nearer than this are the same within what files carry. */
const SAME_POSITION = 1e-3;
/** Relative: sizes that differ less are the same. */
const SAME_SIZE = 1e-6;

export function fingerprintOf(kind: 'face' | 'edge' | 'vertex', index: number, part: PartGeometry): Fingerprint {
  if (kind === 'vertex') return { shape: 'vertex', size: 0, position: pointAt(part.vertices, index) };
  if (kind === 'face') {
    const f: FaceFacts = part.faces[index];
    return { shape: f.surface, size: f.area, radius: f.radius, axis: f.axis, position: middleOfFace(part, index) };
  }
  const e: EdgeFacts = part.edges[index];
  return { shape: e.curve, size: e.length, radius: e.radius, axis: e.axis, position: e.centre ?? middleOfLine(part, index) };
}

/**
 * Looks a fingerprint up in a part, which may be of a later revision. The remembered index is believed first; else the
 * thing of the same shape that is nearest in size and place. `probably found` when something about it changed.
 */
export function findAgain(kind: 'face' | 'edge' | 'vertex', index: number, fingerprint: Fingerprint, part: PartGeometry): Found {
  const count = kind === 'face' ? part.faces.length : kind === 'edge' ? part.edges.length : part.vertices.length / 3;
  if (index < count && difference(fingerprint, fingerprintOf(kind, index, part)) === 0) return { status: 'found', index };
  let best = { index: -1, off: Infinity };
  for (let i = 0; i < count; i++) {
    const off = difference(fingerprint, fingerprintOf(kind, i, part));
    if (off < best.off) best = { index: i, off };
  }
  if (best.off === 0) return { status: 'found', index: best.index };
  return best.off < LOST_BEYOND ? { status: 'probably found', index: best.index } : { status: 'lost' };
}

/** Sum of the relative differences in size and of the shift over the size, beyond which nothing is called the same thing. */
const LOST_BEYOND = 0.5;

function difference(a: Fingerprint, b: Fingerprint): number {
  if (a.shape !== b.shape) return Infinity;
  if (a.axis && b.axis && Math.abs(dot(a.axis, b.axis)) < 0.999) return Infinity;
  const shift = distance(a.position, b.position);
  const extent = a.shape === 'vertex' ? 1 : (a.radius ?? Math.max(1e-6, Math.sqrt(Math.max(a.size, 1e-12))));
  const size = a.size ? Math.abs(a.size - b.size) / a.size : 0;
  const radius = a.radius && b.radius ? Math.abs(a.radius - b.radius) / a.radius : 0;
  return (size > SAME_SIZE ? size : 0) + (radius > SAME_SIZE ? radius : 0) + (shift > SAME_POSITION ? shift / extent : 0);
}

function middleOfFace(part: PartGeometry, face: number): Vec3 {
  const sum = [0, 0, 0];
  const { indices, positions, faceStart } = part.mesh;
  const [from, to] = [3 * faceStart[face], 3 * faceStart[face + 1]];
  for (let i = from; i < to; i++) for (let k = 0; k < 3; k++) sum[k] += positions[3 * indices[i] + k];
  const n = Math.max(1, to - from);
  return [sum[0] / n + part.origin[0], sum[1] / n + part.origin[1], sum[2] / n + part.origin[2]];
}

function middleOfLine(part: PartGeometry, edge: number): Vec3 {
  const { start, positions } = part.lines;
  const middle = (start[edge] + Math.max(start[edge], start[edge + 1] - 1)) >> 1;
  const p = start[edge + 1] > start[edge] ? pointAt(positions, middle) : ([0, 0, 0] as Vec3);
  return [p[0] + part.origin[0], p[1] + part.origin[1], p[2] + part.origin[2]];
}
