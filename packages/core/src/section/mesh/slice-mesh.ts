import { INTERSECTED, NOT_INTERSECTED, type MeshBVH } from 'three-mesh-bvh';
import type { Box3 } from 'three';
import type { UpAxis } from '../../camera/directions.ts';
import type { PartGeometry } from '../../geometry/part-geometry.ts';
import { crossingOf, type Plane } from '../../math/plane.ts';
import { cross, distance, length, pointAt, subtract, type Vec3 } from '../../math/vec3.ts';

/** A plane that cuts: what lies above it is taken. */
export interface CutPlane extends Plane {
  /**
   * mm. What is no further from the plane counts as in it, and so as on the removed side;
   * 0 where nothing is said.
   */
  within?: number;
  /** The model's up axis: which way is up in the drawing of the cut. Z where nothing is said. */
  up?: UpAxis;
}

export interface MeshSlice {
  /**
   * Closed loops in the plane, anticlockwise around material seen against the normal's tip; holes clockwise.
   */
  loops: Vec3[][];
  /** Chains that do not close: the mesh is open there. */
  open: Vec3[][];
}

/**
 * How much farther than the mesh from its surface the outlines of a cut may lie from the true ones, times: 1
 * where the plane meets faces squarely, 1/sin of the angle where it meets them aslant. `mean` along the
 * outlines, `most` at the worst place.
 */
export interface Lean {
  mean: number;
  most: number;
}

/** Times; what leans more is all but in the plane. */
const MOST_LEAN = 1000;

/**
 * Where a plane cuts a part's mesh, relative to the geometry's origin. Vertices are welded, each lies on one
 * side only (in the plane counts as above), and each crossing is computed once, in the order of its welded
 * vertices, and known by its edge: so loops of a closed mesh close exactly, also where vertices, edges or
 * faces lie in the plane.
 * @param weld for every vertex the first one at its place
 */
export function sliceMesh(
  part: PartGeometry,
  weld: Uint32Array,
  bvh: MeshBVH,
  plane: CutPlane,
): MeshSlice & { lean: Lean } {
  const { positions, indices } = part.mesh;
  const [nx, ny, nz] = plane.normal;
  const within = plane.within ?? 0;
  const away = (v: number) => {
    const d = positions[3 * v] * nx + positions[3 * v + 1] * ny + positions[3 * v + 2] * nz - plane.constant;
    return Math.abs(d) <= within ? 0 : d;
  };
  /** Crossings by their edges; each knows its number, where it is, and which one follows. */
  const numbers = new Map<number, number>();
  const points: Vec3[] = [];
  const next: number[] = [];
  /** Followers beyond the first, where several outlines touch at one edge. */
  const more = new Map<number, number[]>();
  const count = positions.length / 3;

  const crossing = (a: number, b: number, da: number, db: number): number => {
    const [low, high, dl, dh] = a < b ? [a, b, da, db] : [b, a, db, da];
    const key = low * count + high;
    const found = numbers.get(key);
    if (found !== undefined) return found;
    const t = crossingOf(dl, dh);
    const [x, y, z] = [positions[3 * low], positions[3 * low + 1], positions[3 * low + 2]];
    numbers.set(key, points.length);
    next.push(-1);
    return (
      points.push([
        x + (positions[3 * high] - x) * t,
        y + (positions[3 * high + 1] - y) * t,
        z + (positions[3 * high + 2] - z) * t,
      ]) - 1
    );
  };

  let [along, leaning, most] = [0, 0, 1];
  const measureLean = (a: number, b: number, c: number, from: number, to: number): void => {
    const [p, q, r] = [pointAt(positions, a), pointAt(positions, b), pointAt(positions, c)];
    const n = cross(subtract(q, p), subtract(r, p));
    const times = Math.min(MOST_LEAN, length(n) / length(cross(n, plane.normal)));
    if (!(times >= 1)) return;
    const piece = distance(points[from], points[to]);
    along += piece;
    leaning += piece * times;
    if (piece > 0 && times > most) most = times;
  };

  eachTriangleAt(bvh, plane, (t) => {
    const [a, b, c] = [weld[indices[3 * t]], weld[indices[3 * t + 1]], weld[indices[3 * t + 2]]];
    const [da, db, dc] = [away(a), away(b), away(c)];
    const above = (da >= 0 ? 1 : 0) + (db >= 0 ? 1 : 0) + (dc >= 0 ? 1 : 0);
    if (above === 0 || above === 3) return;
    let [enters, leaves] = [-1, -1];
    if (da >= 0 !== db >= 0) {
      if (da >= 0) leaves = crossing(a, b, da, db);
      else enters = crossing(a, b, da, db);
    }
    if (db >= 0 !== dc >= 0) {
      if (db >= 0) leaves = crossing(b, c, db, dc);
      else enters = crossing(b, c, db, dc);
    }
    if (dc >= 0 !== da >= 0) {
      if (dc >= 0) leaves = crossing(c, a, dc, da);
      else enters = crossing(c, a, dc, da);
    }
    // Neighbours go along their common edge in opposite senses: where one leaves the other enters.
    if (enters < 0 || leaves < 0 || enters === leaves) return;
    measureLean(a, b, c, leaves, enters);
    if (next[leaves] < 0) next[leaves] = enters;
    else more.set(leaves, [...(more.get(leaves) ?? []), enters]);
  });
  return {
    ...chain(points, next, more, part.chordTolerance),
    lean: { mean: along > 0 ? leaning / along : 1, most },
  };
}

/** Visits the triangles whose boxes the plane cuts. */
function eachTriangleAt(
  bvh: MeshBVH,
  { normal, constant, within = 0 }: CutPlane,
  visit: (triangle: number) => void,
): void {
  const cuts = (box: Box3) => {
    let [low, high] = [-constant, -constant];
    const [min, max] = [box.min.toArray(), box.max.toArray()];
    for (let k = 0; k < 3; k++) {
      low += normal[k] * (normal[k] > 0 ? min[k] : max[k]);
      high += normal[k] * (normal[k] > 0 ? max[k] : min[k]);
    }
    return low <= within && high >= -within;
  };
  bvh.shapecast({
    intersectsBounds: (box) => (cuts(box) ? INTERSECTED : NOT_INTERSECTED),
    intersectsTriangle: (_triangle: unknown, index: number) => {
      visit(index);
      return false;
    },
  });
}

function chain(
  points: readonly Vec3[],
  next: number[],
  more: ReadonlyMap<number, number[]>,
  gap: number,
): MeshSlice {
  const loops: Vec3[][] = [];
  const open: Vec3[][] = [];
  const entered = new Uint8Array(points.length);
  for (const to of next) if (to >= 0) entered[to] = 1;
  for (const list of more.values()) for (const to of list) entered[to] = 1;
  /** Takes the follower of a crossing, so that no piece is gone over twice. */
  const take = (at: number): number => {
    const to = next[at];
    next[at] = more.get(at)?.pop() ?? -1;
    return to;
  };
  const follow = (start: number): void => {
    const run: Vec3[] = [];
    let at = start;
    for (;;) {
      run.push(points[at]);
      const to = take(at);
      if (to < 0) return void open.push(run);
      if (to === start) return void loops.push(run);
      at = to;
    }
  };
  // Open chains begin where nothing enters; the rest are loops.
  for (let i = 0; i < points.length; i++) if (!entered[i]) while (next[i] >= 0) follow(i);
  for (let i = 0; i < points.length; i++) while (next[i] >= 0) follow(i);
  const closed = closeGaps(open, gap);
  return { loops: [...loops, ...closed.loops].filter((l) => l.length >= 3), open: closed.open };
}

/**
 * Joins open chains whose ends are no further apart than the mesh may be from the surface: faces of one solid
 * that were meshed singly do not always meet to the last digit.
 */
function closeGaps(chains: readonly Vec3[][], gap: number): MeshSlice {
  const left = [...chains];
  const result: MeshSlice = { loops: [], open: [] };
  for (let at = left.pop(); at; at = left.pop()) {
    for (;;) {
      const end = at.at(-1)!;
      if (at.length >= 3 && distance(end, at[0]) <= gap) {
        result.loops.push(at);
        break;
      }
      const next = left.findIndex((c) => distance(end, c[0]) <= gap);
      if (next < 0) {
        const before = left.findIndex((c) => distance(at![0], c.at(-1)!) <= gap);
        if (before < 0) {
          result.open.push(at);
          break;
        }
        at = [...left.splice(before, 1)[0], ...at];
      } else at = [...at, ...left.splice(next, 1)[0]];
    }
  }
  return result;
}
