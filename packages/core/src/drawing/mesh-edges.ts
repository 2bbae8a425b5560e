import type { PartGeometry } from '../geometry/part-geometry.ts';
import { weld } from '../geometry/weld.ts';

/**
 * The edges between the triangles of a part that can become its outline: within curved faces
 * and across smooth edges.
 * Sharp edges are drawn anyway. Flat arrays; triangle numbers are those of the part's mesh.
 */
export interface MeshEdges {
  /** Two vertex numbers an edge. */
  vertices: Uint32Array;
  /** The triangles on both sides; −1 where there is none (an open edge of the mesh). */
  triangles: Int32Array;
  /** The curved face that an edge belongs to: its outline can then be put on the exact surface. */
  faces: Uint32Array;
}

/** Finds the mesh edges of a part. Costs one pass over the triangles and one hash entry an edge. */
export function meshEdges(part: PartGeometry): MeshEdges {
  const welded = weld(part);
  const sharp = sharpPairs(part);
  const faceOf = faceOfTriangles(part);
  const { indices } = part.mesh;
  const open = new Map<number, number>();
  const vertices: number[] = [];
  const triangles: number[] = [];
  const faces: number[] = [];
  const count = part.mesh.positions.length / 3;
  for (let i = 0; i < indices.length; i++) {
    const next = i % 3 === 2 ? i - 2 : i + 1;
    const [a, b] = [welded[indices[i]], welded[indices[next]]];
    if (a === b) continue;
    const key = Math.min(a, b) * count + Math.max(a, b);
    const first = open.get(key);
    if (first === undefined) {
      open.set(key, i);
      continue;
    }
    open.delete(key);
    const [t1, t2] = [Math.floor(first / 3), Math.floor(i / 3)];
    const [f1, f2] = [faceOf[t1], faceOf[t2]];
    const flat = part.faces[f1].surface === 'plane' && part.faces[f2].surface === 'plane';
    if (flat || (f1 !== f2 && sharp.has(pairKey(f1, f2, part.faces.length)))) continue;
    vertices.push(indices[i], indices[next]);
    triangles.push(t1, t2);
    faces.push(part.faces[f1].surface === 'plane' ? f2 : f1);
  }
  return {
    vertices: Uint32Array.from(vertices),
    triangles: Int32Array.from(triangles),
    faces: Uint32Array.from(faces),
  };
}

/** All edges of the triangles, each once: for showing the mesh itself. Two vertex numbers an edge. */
export function triangleEdges(part: PartGeometry): Uint32Array {
  const { indices, positions } = part.mesh;
  const count = positions.length / 3;
  const seen = new Set<number>();
  const edges: number[] = [];
  for (let i = 0; i < indices.length; i++) {
    const [a, b] = [indices[i], indices[i % 3 === 2 ? i - 2 : i + 1]];
    const key = Math.min(a, b) * count + Math.max(a, b);
    if (seen.has(key)) continue;
    seen.add(key);
    edges.push(a, b);
  }
  return Uint32Array.from(edges);
}

const pairKey = (a: number, b: number, count: number): number => Math.min(a, b) * count + Math.max(a, b);

/** Pairs of faces that meet in a sharp edge and in no smooth one. */
function sharpPairs(part: PartGeometry): Set<number> {
  const sharp = new Set<number>();
  const smooth = new Set<number>();
  for (const edge of part.edges) {
    if (edge.faces.length !== 2) continue;
    (edge.smooth || edge.seam ? smooth : sharp).add(pairKey(edge.faces[0], edge.faces[1], part.faces.length));
  }
  for (const key of smooth) sharp.delete(key);
  return sharp;
}

function faceOfTriangles({ mesh }: PartGeometry): Uint32Array {
  const out = new Uint32Array(mesh.indices.length / 3);
  for (let f = 0; f + 1 < mesh.faceStart.length; f++) out.fill(f, mesh.faceStart[f], mesh.faceStart[f + 1]);
  return out;
}
