import { INTERSECTED, NOT_INTERSECTED, type MeshBVH } from 'three-mesh-bvh';
import type { Box3 } from 'three';
import type { PartGeometry } from '../geometry/part-geometry.ts';
import { addScaled, distance, dot, pointAt, subtract, type Vec3 } from '../math/vec3.ts';

/** Points p with normal · p = constant; the side the normal points to is cut away. */
export interface CutPlane {
  normal: Vec3;
  constant: number;
}

export interface MeshSlice {
  /** Closed loops in the plane, anticlockwise around material seen against the normal's tip; holes clockwise. */
  loops: Vec3[][];
  /** Chains that do not close: the mesh is open there. */
  open: Vec3[][];
}

/**
 * Where a plane cuts a part's mesh, relative to the geometry's origin. Vertices are welded, each lies on one side only
 * (d ≥ 0 counts as above), and each crossing is computed once, in the order of its welded vertices, and known by its
 * edge: so loops of a closed mesh close exactly, also where vertices, edges or faces lie in the plane.
 * @param weld for every vertex the first one at its place
 */
export function sliceMesh(part: PartGeometry, weld: Uint32Array, bvh: MeshBVH, plane: CutPlane): MeshSlice {
  const { positions, indices } = part.mesh;
  const away = (v: number) => dot(pointAt(positions, v), plane.normal) - plane.constant;
  const crossings = new Map<number, Vec3>();
  const next = new Map<number, number[]>();
  const count = positions.length / 3;

  const crossing = (a: number, b: number, da: number, db: number): number => {
    const [low, high, dl, dh] = a < b ? [a, b, da, db] : [b, a, db, da];
    const key = low * count + high;
    if (!crossings.has(key)) {
      const p = pointAt(positions, low);
      crossings.set(key, addScaled(p, subtract(pointAt(positions, high), p), dl / (dl - dh)));
    }
    return key;
  };

  eachTriangleAt(bvh, plane, (t) => {
    const v = [0, 1, 2].map((k) => weld[indices[3 * t + k]]);
    const d = v.map(away);
    let [enters, leaves] = [-1, -1];
    for (let k = 0; k < 3; k++) {
      const j = (k + 1) % 3;
      if (d[k] >= 0 === d[j] >= 0) continue;
      const key = crossing(v[k], v[j], d[k], d[j]);
      if (d[k] >= 0) leaves = key;
      else enters = key;
    }
    // Neighbours go along their common edge in opposite senses: where one leaves the other enters.
    if (enters >= 0 && leaves >= 0 && enters !== leaves) next.set(leaves, [...(next.get(leaves) ?? []), enters]);
  });
  return chain(next, crossings, part.chordTolerance);
}

/** Visits the triangles whose boxes the plane cuts. */
function eachTriangleAt(bvh: MeshBVH, { normal, constant }: CutPlane, visit: (triangle: number) => void): void {
  const cuts = (box: Box3) => {
    let [low, high] = [-constant, -constant];
    const [min, max] = [box.min.toArray(), box.max.toArray()];
    for (let k = 0; k < 3; k++) {
      low += normal[k] * (normal[k] > 0 ? min[k] : max[k]);
      high += normal[k] * (normal[k] > 0 ? max[k] : min[k]);
    }
    return low <= 0 && high >= 0;
  };
  bvh.shapecast({
    intersectsBounds: (box) => (cuts(box) ? INTERSECTED : NOT_INTERSECTED),
    intersectsTriangle: (_triangle: unknown, index: number) => {
      visit(index);
      return false;
    },
  });
}

function chain(next: Map<number, number[]>, crossings: ReadonlyMap<number, Vec3>, gap: number): MeshSlice {
  const loops: Vec3[][] = [];
  const open: Vec3[][] = [];
  const entered = new Set([...next.values()].flat());
  const follow = (start: number): void => {
    const points: Vec3[] = [];
    let at = start;
    for (;;) {
      points.push(crossings.get(at)!);
      const to = next.get(at)?.pop();
      if (to === undefined) return void open.push(points);
      if (to === start) return void loops.push(points);
      at = to;
    }
  };
  // Open chains begin where nothing enters; the rest are loops.
  for (const key of next.keys()) if (!entered.has(key)) while (next.get(key)!.length) follow(key);
  for (const [key, list] of next) while (list.length) follow(key);
  const closed = closeGaps(open, gap);
  return { loops: [...loops, ...closed.loops].filter((l) => l.length >= 3), open: closed.open };
}

/** Joins open chains whose ends are no further apart than the mesh may be from the surface: faces of one solid that were meshed singly do not always meet to the last digit. */
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
