import type { RingMesh } from '../geometry/ring-mesh.ts';
import { distance, dot, pointAt, type Vec3 } from '../math/vec3.ts';
import {
  collapseEdge,
  flipEdge,
  halfEdges,
  leavingFrom,
  neighbours,
  next,
  previous,
  splitEdge,
  type HalfEdges,
} from './half-edges.ts';
import type { MeshedSurface } from './round-surface.ts';

/** Cosine of the most that a triangle may lean from the surface over its middle. */
const UPRIGHT = 0.7;
/**
 * How often edges are turned, split and drawn together at most; each round gains far
 * less than the one before.
 */
const ROUNDS = 6;
/** Few triangles are looked at then, and each split halves them. */
const REFINING_ROUNDS = 12;
/** What a turned edge must gain, so that equals do not turn for ever. */
const GAIN = 0.999;
/** A round that draws fewer of the vertices together than this share is the last. */
const HARDLY_ANY = 0.03;

/**
 * Triangles of the same piece of a sphere or torus that keep within a chord of it, and no more
 * of them than that takes:
 * a mesher that looks at rows and columns of parameters leaves some outside and many to no purpose. Vertices
 * of the outline stay, so neighbours still meet it.
 *
 * Edges are turned where that brings both triangles nearer; those still too far are split at the surface;
 * then inner vertices are drawn into a neighbour wherever what remains keeps within the chord and the angle.
 * After H. Hoppe et al., Mesh Optimization, SIGGRAPH 1993, with the distance to the surface itself in place
 * of samples of it.
 * @param chord mm, the largest distance between a triangle and the surface
 * @param angle rad, the most the surface turns along an edge
 */
export function meshWithinChord(
  face: RingMesh,
  surface: MeshedSurface,
  chord: number,
  angle: number,
): RingMesh {
  const work = workpiece(face, surface);
  // An outline that lies off the surface, as of a file made carelessly, cannot be met by what lies on it.
  if (work.positions.some((p, i) => surface.distance(...p, work.us[i], work.vs[i]) > chord / 2)) return face;
  bringNearer(work, chord);
  for (let round = 0; round < ROUNDS; round++) {
    const drawn = collapseEdges(work, chord, Math.cos(angle));
    flipEdges(work);
    if (drawn < HARDLY_ANY * work.positions.length) break;
  }
  return packed(work);
}

/**
 * The same for any surface, where a mesher went too far from it here and there: triangles are only added,
 * within the outline.
 * @param each mm: how far each triangle is off
 */
export function refineWithinChord(
  face: RingMesh,
  surface: MeshedSurface,
  chord: number,
  each: ArrayLike<number>,
): RingMesh {
  const work = workpiece(face, surface);
  let suspects = Array.from(each, (off, t) => (off > chord ? 3 * t : -1)).filter((t) => t >= 0);
  for (let round = 0; round < REFINING_ROUNDS && suspects.length; round++) {
    const flipped = flipEdges(
      work,
      suspects.flatMap((t) => [t, t + 1, t + 2]),
    );
    suspects = splitEdges(work, chord, [...new Set([...suspects, ...flipped])]);
  }
  return packed(work);
}

function bringNearer(work: Workpiece, chord: number): void {
  for (let round = 0; round < ROUNDS; round++) {
    flipEdges(work);
    if (!splitEdges(work, chord).length) break;
  }
}

interface Workpiece {
  mesh: HalfEdges;
  positions: Vec3[];
  normals: Vec3[];
  /** Parameters of each vertex; nil where the surface does not ask for them. */
  us: number[];
  vs: number[];
  surface: MeshedSurface;
  /** 1, or −1 where the face looks towards the centre. */
  side: number;
}

function workpiece(face: RingMesh, surface: MeshedSurface): Workpiece {
  const count = face.positions.length / 3;
  const positions = Array.from({ length: count }, (_, i) => pointAt(face.positions, i));
  const normals = Array.from({ length: count }, (_, i) => pointAt(face.normals, i));
  const [us, vs] = [0, 1].map((k) => Array.from({ length: count }, (_, i) => face.uv?.[2 * i + k] ?? 0));
  const first = face.indices[0];
  const side =
    dot(normals[first], surface.nearest(positions[first], us[first], vs[first]).normal) < 0 ? -1 : 1;
  return { mesh: halfEdges(face.indices, count), positions, normals, us, vs, surface, side };
}

/** mm from the surface to the middle of an edge. */
function edgeOff({ positions, us, vs, surface }: Workpiece, a: number, b: number): number {
  const [p, q] = [positions[a], positions[b]];
  return surface.distance(
    (p[0] + q[0]) / 2,
    (p[1] + q[1]) / 2,
    (p[2] + q[2]) / 2,
    (us[a] + us[b]) / 2,
    (vs[a] + vs[b]) / 2,
  );
}

/** mm from the surface to the middle of a triangle; infinite where it leans too much. */
function middleOff(
  { positions, normals, us, vs, surface }: Workpiece,
  a: number,
  b: number,
  c: number,
): number {
  const [p, q, r] = [positions[a], positions[b], positions[c]];
  const [ux, uy, uz] = [q[0] - p[0], q[1] - p[1], q[2] - p[2]];
  const [vx, vy, vz] = [r[0] - p[0], r[1] - p[1], r[2] - p[2]];
  const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const [l, m, n] = [normals[a], normals[b], normals[c]];
  const [sx, sy, sz] = [l[0] + m[0] + n[0], l[1] + m[1] + n[1], l[2] + m[2] + n[2]];
  const upright = nx * sx + ny * sy + nz * sz;
  if (!(upright > UPRIGHT * Math.sqrt((nx * nx + ny * ny + nz * nz) * (sx * sx + sy * sy + sz * sz))))
    return Infinity;
  const [u, v] = [(us[a] + us[b] + us[c]) / 3, (vs[a] + vs[b] + vs[c]) / 3];
  return surface.distance((p[0] + q[0] + r[0]) / 3, (p[1] + q[1] + r[1]) / 3, (p[2] + q[2] + r[2]) / 3, u, v);
}

/**
 * Turns edges to the diagonal that lies nearer, until none gains. @param waiting half-edges to begin with
 * @returns the triangles that were changed
 */
function flipEdges(work: Workpiece, waiting = innerEdges(work)): number[] {
  const { mesh } = work;
  const { at, twin } = mesh;
  const changed: number[] = [];
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
    changed.push(h - (h % 3), g - (g % 3));
    for (const side of [h, next(h), previous(h), g, next(g), previous(g)])
      if (twin[side] >= 0) waiting.push(side);
  }
  return changed;
}

const innerEdges = ({ mesh: { at, twin } }: Workpiece): number[] =>
  at.flatMap((_, h) => (twin[h] > h && at[h] >= 0 ? [h] : []));

/**
 * Splits inner edges of triangles that are too far off, the longest of each. @param triangles their first
 * corners @returns those that were made or changed
 */
function splitEdges(work: Workpiece, chord: number, triangles = allTriangles(work)): number[] {
  const { mesh, positions, normals, us, vs, surface, side } = work;
  const { at, twin } = mesh;
  const changed: number[] = [];
  for (const t of triangles) {
    if (at[t] < 0) continue;
    const corners = [t, t + 1, t + 2].filter((h) => twin[h] >= 0);
    const off = (h: number) => edgeOff(work, at[h], at[next(h)]);
    const far = corners.filter((h) => off(h) > chord);
    if (!far.length && !(middleOff(work, at[t], at[t + 1], at[t + 2]) > chord)) continue;
    if (!corners.length) continue;
    const h = (far.length ? far : corners).reduce((most, h) => (off(h) > off(most) ? h : most));
    const [a, b] = [at[h], at[next(h)]];
    const [p, q] = [positions[a], positions[b]];
    const middle: Vec3 = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2, (p[2] + q[2]) / 2];
    const { point, normal, u, v } = surface.nearest(middle, (us[a] + us[b]) / 2, (vs[a] + vs[b]) / 2);
    const g = twin[h];
    splitEdge(mesh, h, positions.length);
    us.push(u);
    vs.push(v);
    positions.push(point);
    normals.push([side * normal[0], side * normal[1], side * normal[2]]);
    changed.push(t, g - (g % 3), at.length - 6, at.length - 3);
  }
  return changed;
}

const allTriangles = ({ mesh: { at } }: Workpiece): number[] => at.flatMap((_, h) => (h % 3 ? [] : [h]));

/**
 * Draws inner vertices into a neighbour where that leaves nothing too far off; of neighbours one a round.
 * @returns how many
 */
function collapseEdges(work: Workpiece, chord: number, cosine: number): number {
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

/**
 * Where in the ring of a vertex the neighbour is that it can be drawn into, the nearest first; −1 if none.
 */
function nearestThatServes(
  work: Workpiece,
  ring: number[],
  vertex: number,
  chord: number,
  cosine: number,
): number {
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

/**
 * Whether a vertex and the one it would be drawn into have more neighbours in common than
 * the two beside their edge.
 */
function sharesMore(mesh: HalfEdges, spoke: number, ring: number[]): boolean {
  const { at, twin } = mesh;
  const beside = [at[previous(spoke)], at[previous(twin[spoke])]];
  const around = neighbours(mesh, next(spoke));
  return ring.some((v) => v !== at[next(spoke)] && !beside.includes(v) && around.has(v));
}

function packed({ mesh, positions, normals, us, vs }: Workpiece): RingMesh {
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
    uv: Float64Array.from(kept.flatMap((v) => [us[v], vs[v]])),
  };
}
