import type { RingMesh } from '../geometry/ring-mesh.ts';
import { distance, dot, pointAt, type Vec3 } from '../math/vec3.ts';
import { collapseEdge, flipEdge, halfEdges, leavingFrom, neighbours, next, previous, splitEdge, type HalfEdges } from './half-edges.ts';
import type { RoundSurface } from './round-surface.ts';

/** Cosine of the most that a triangle may lean from the surface over its middle. */
const UPRIGHT = 0.7;
/** How often edges are turned, split and drawn together at most; each round gains far less than the one before. */
const ROUNDS = 6;
/** What a turned edge must gain, so that equals do not turn for ever. */
const GAIN = 0.999;
/** A round that draws fewer of the vertices together than this share is the last. */
const HARDLY_ANY = 0.03;

/**
 * Triangles of the same piece of a sphere or torus that keep within a chord of it, and no more of them than that takes:
 * a mesher that looks at rows and columns of parameters leaves some outside and many to no purpose. Vertices of the
 * outline stay, so neighbours still meet it.
 *
 * Edges are turned where that brings both triangles nearer; those still too far are split at the surface; then inner
 * vertices are drawn into a neighbour wherever what remains keeps within the chord and the angle. After H. Hoppe et al.,
 * Mesh Optimization, SIGGRAPH 1993, with the distance to the surface itself in place of samples of it.
 * @param chord mm, the largest distance between a triangle and the surface
 * @param angle rad, the most the surface turns along an edge
 */
export function meshWithinChord(face: RingMesh, surface: RoundSurface, chord: number, angle: number): RingMesh {
  const work = workpiece(face, surface);
  // An outline that lies off the surface, as of a file made carelessly, cannot be met by what lies on it.
  if (work.positions.some((p) => surface.distance(...p) > chord / 2)) return face;
  for (let round = 0; round < ROUNDS; round++) {
    turnEdges(work);
    if (!splitEdges(work, chord)) break;
  }
  for (let round = 0; round < ROUNDS; round++) {
    const drawn = drawTogether(work, chord, Math.cos(angle));
    turnEdges(work);
    if (drawn < HARDLY_ANY * work.positions.length) break;
  }
  return packed(work);
}

interface Workpiece {
  mesh: HalfEdges;
  positions: Vec3[];
  normals: Vec3[];
  surface: RoundSurface;
  /** 1, or −1 where the face looks towards the centre. */
  side: number;
}

function workpiece(face: RingMesh, surface: RoundSurface): Workpiece {
  const count = face.positions.length / 3;
  const positions = Array.from({ length: count }, (_, i) => pointAt(face.positions, i));
  const normals = Array.from({ length: count }, (_, i) => pointAt(face.normals, i));
  const side = dot(normals[face.indices[0]], surface.nearest(positions[face.indices[0]]).normal) < 0 ? -1 : 1;
  return { mesh: halfEdges(face.indices, count), positions, normals, surface, side };
}

/** mm from the surface to the middle of an edge. */
function edgeOff({ positions, surface }: Workpiece, a: number, b: number): number {
  const [p, q] = [positions[a], positions[b]];
  return surface.distance((p[0] + q[0]) / 2, (p[1] + q[1]) / 2, (p[2] + q[2]) / 2);
}

/** mm from the surface to the middle of a triangle; infinite where it leans too much. */
function middleOff({ positions, normals, surface }: Workpiece, a: number, b: number, c: number): number {
  const [p, q, r] = [positions[a], positions[b], positions[c]];
  const [ux, uy, uz] = [q[0] - p[0], q[1] - p[1], q[2] - p[2]];
  const [vx, vy, vz] = [r[0] - p[0], r[1] - p[1], r[2] - p[2]];
  const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const [l, m, n] = [normals[a], normals[b], normals[c]];
  const [sx, sy, sz] = [l[0] + m[0] + n[0], l[1] + m[1] + n[1], l[2] + m[2] + n[2]];
  const upright = nx * sx + ny * sy + nz * sz;
  if (!(upright > UPRIGHT * Math.sqrt((nx * nx + ny * ny + nz * nz) * (sx * sx + sy * sy + sz * sz)))) return Infinity;
  return surface.distance((p[0] + q[0] + r[0]) / 3, (p[1] + q[1] + r[1]) / 3, (p[2] + q[2] + r[2]) / 3);
}

/** Turns edges to the diagonal that lies nearer, until none gains. */
function turnEdges(work: Workpiece): void {
  const { mesh } = work;
  const { at, twin } = mesh;
  const waiting = at.flatMap((_, h) => (twin[h] > h && at[h] >= 0 ? [h] : []));
  // Each turn gains, so it ends; the bound is for distances that differ by rounding alone.
  for (let left = 8 * waiting.length; waiting.length && left > 0; left--) {
    const h = waiting.pop()!;
    const g = twin[h];
    if (g < 0 || at[h] < 0) continue;
    const [a, b, c, d] = [at[h], at[next(h)], at[previous(h)], at[previous(g)]];
    if (c === d) continue;
    const now = Math.max(edgeOff(work, a, b), middleOff(work, a, b, c), middleOff(work, b, a, d));
    const edge = edgeOff(work, c, d);
    if (edge >= now * GAIN) continue;
    const then = Math.max(edge, middleOff(work, a, d, c), middleOff(work, d, b, c));
    // A second edge of the same two would be no surface any more.
    if (!(then < now * GAIN) || neighbours(mesh, previous(h)).has(d)) continue;
    flipEdge(mesh, h);
    for (const side of [h, next(h), previous(h), g, next(g), previous(g)]) if (twin[side] >= 0) waiting.push(side);
  }
}

/** Splits inner edges of triangles that are too far off, the longest of each. @returns whether any was */
function splitEdges(work: Workpiece, chord: number): boolean {
  const { mesh, positions, normals, surface, side } = work;
  const { at, twin } = mesh;
  let any = false;
  for (let t = 0, end = at.length; t < end; t += 3) {
    if (at[t] < 0) continue;
    const corners = [t, t + 1, t + 2].filter((h) => twin[h] >= 0);
    const off = (h: number) => edgeOff(work, at[h], at[next(h)]);
    const far = corners.filter((h) => off(h) > chord);
    if (!far.length && !(middleOff(work, at[t], at[t + 1], at[t + 2]) > chord)) continue;
    if (!corners.length) continue;
    const h = (far.length ? far : corners).reduce((most, h) => (off(h) > off(most) ? h : most));
    const [p, q] = [positions[at[h]], positions[at[next(h)]]];
    const { point, normal } = surface.nearest([(p[0] + q[0]) / 2, (p[1] + q[1]) / 2, (p[2] + q[2]) / 2]);
    splitEdge(mesh, h, positions.length);
    positions.push(point);
    normals.push([side * normal[0], side * normal[1], side * normal[2]]);
    any = true;
  }
  return any;
}

/** Draws inner vertices into a neighbour where that leaves nothing too far off; of neighbours one a round. @returns how many */
function drawTogether(work: Workpiece, chord: number, cosine: number): number {
  const { mesh, positions } = work;
  const { at, twin } = mesh;
  const held = new Uint8Array(positions.length);
  const out = new Int32Array(positions.length).fill(-1);
  for (let h = 0; h < at.length; h++)
    if (at[h] >= 0) {
      out[at[h]] = h;
      if (twin[h] < 0) held[at[h]] = held[at[next(h)]] = 1;
    }
  let drawn = 0;
  for (let vertex = 0; vertex < held.length; vertex++) {
    if (held[vertex] || out[vertex] < 0) continue;
    const { halfEdges: spokes, open } = leavingFrom(mesh, out[vertex]);
    if (open) continue;
    const ring = spokes.map((h) => at[next(h)]);
    const k = nearestThatServes(work, ring, vertex, chord, cosine);
    if (k < 0 || sharesMore(mesh, spokes[k], ring)) continue;
    collapseEdge(mesh, spokes[k]);
    for (const v of ring) held[v] = 1;
    drawn++;
  }
  return drawn;
}

/** Where in the ring of a vertex the neighbour is that it can be drawn into, the nearest first; −1 if none. */
function nearestThatServes(work: Workpiece, ring: number[], vertex: number, chord: number, cosine: number): number {
  const { positions } = work;
  const p = positions[vertex];
  const reach = ring.map((v) => distance(positions[v], p));
  const order = ring.map((_, k) => k).sort((a, b) => reach[a] - reach[b]);
  return order.find((k) => serves(work, ring, k, chord, cosine)) ?? -1;
}

/** Whether the fan from one vertex of a ring over the whole ring keeps within the chord and the angle. */
function serves(work: Workpiece, ring: number[], k: number, chord: number, cosine: number): boolean {
  const { normals } = work;
  const into = ring[k];
  for (let i = 1; i < ring.length - 1; i++) {
    const [a, b] = [ring[(k + i) % ring.length], ring[(k + i + 1) % ring.length]];
    if (i > 1 && (dot(normals[into], normals[a]) < cosine || edgeOff(work, into, a) > chord)) return false;
    if (middleOff(work, into, a, b) > chord) return false;
  }
  return true;
}

/** Whether a vertex and the one it would be drawn into have more neighbours in common than the two beside their edge. */
function sharesMore(mesh: HalfEdges, spoke: number, ring: number[]): boolean {
  const { at, twin } = mesh;
  const beside = [at[previous(spoke)], at[previous(twin[spoke])]];
  const around = neighbours(mesh, next(spoke));
  return ring.some((v) => v !== at[next(spoke)] && !beside.includes(v) && around.has(v));
}

function packed({ mesh, positions, normals }: Workpiece): RingMesh {
  const renamed = new Map<number, number>();
  const indices = mesh.at
    .filter((v) => v >= 0)
    .map((v) => {
      if (!renamed.has(v)) renamed.set(v, renamed.size);
      return renamed.get(v)!;
    });
  const kept = [...renamed.keys()];
  return {
    positions: Float64Array.from(kept.flatMap((v) => positions[v])),
    normals: Float32Array.from(kept.flatMap((v) => normals[v])),
    indices: Uint32Array.from(indices),
  };
}
