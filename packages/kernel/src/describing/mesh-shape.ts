import type { RingMesh } from '@bathyscope/core/geometry';
import { pointAt, transformDirection, transformPoint } from '@bathyscope/core/math';
import { MESH_ANGLE, MESH_CHORD_RELATIVE } from '@bathyscope/core/tolerances';
import type { Occt } from '../occt/load.ts';
import { readLocation, readPolygonNodes, readPolygonParameters, readTriangulation } from '../occt/memory.ts';
import { explore, isReversed, ShapeType } from '../occt/shapes.ts';

/* The kernel's triangles. */

export interface MeshSettings {
  /** Relative to the diagonal of the part's box. */
  chord: number;
  /** rad */
  angle: number;
}

export const DEFAULT_MESH: MeshSettings = { chord: MESH_CHORD_RELATIVE, angle: MESH_ANGLE };

/** Triangles and normals of one face. */
export type RawFace = RingMesh;

/** Forgets the triangulation, so that the stored shape is the source shape alone. */
export const clean = (oc: Occt, shape: Occt): void => oc.BRepTools.Clean(shape, true);

/**
 * Meshes a shape, which keeps its triangulation until `clean` is called on it. @returns mm: the
 * chord that was asked for
 */
export function meshShape(oc: Occt, shape: Occt, settings: MeshSettings): number {
  const box = new oc.Bnd_Box_1();
  oc.BRepBndLib.Add(shape, box, false);
  let diagonal = 1;
  if (!box.IsVoid()) {
    const low = box.CornerMin();
    const high = box.CornerMax();
    diagonal = low.Distance(high) as number;
    low.delete();
    high.delete();
  }
  box.delete();
  const chord = diagonal * settings.chord;
  new oc.BRepMesh_IncrementalMesh_2(shape, chord, false, settings.angle, false).delete();
  return chord;
}

export function meshAgain(oc: Occt, face: Occt, chord: number, settings: MeshSettings): void {
  for (const factor of [0.25, 4]) {
    oc.BRepTools.Clean(face, true);
    new oc.BRepMesh_IncrementalMesh_2(
      face,
      chord * factor,
      false,
      settings.angle * (factor > 1 ? 2 : 1),
      false,
    ).delete();
    if (hasTriangles(oc, face)) return;
  }
}

function hasTriangles(oc: Occt, shape: Occt): boolean {
  const face = oc.TopoDS.Face_1(shape);
  const location = new oc.TopLoc_Location_1();
  const handle = oc.BRep_Tool.Triangulation(face, location, 0);
  const found = !handle.IsNull() && handle.get().NbTriangles() > 0;
  for (const o of [handle, location, face]) o.delete();
  return found;
}

const NO_FACE: RawFace = {
  positions: new Float64Array(0),
  normals: new Float32Array(0),
  indices: new Uint32Array(0),
};

/** An edge as drawn: xyz of its points in the part's frame, and the parameters of its curve there. */
export interface RawLine {
  positions: Float64Array;
  parameters: Float64Array | null;
}

/**
 * Triangles and normals of one face in the part's frame; the polylines of its edges that are not known yet go
 * to `polylines`, by their number in `edgeMap`.
 */
export function readFace(oc: Occt, shape: Occt, edgeMap?: Occt, polylines?: Map<number, RawLine>): RawFace {
  const face = oc.TopoDS.Face_1(shape);
  const location = new oc.TopLoc_Location_1();
  const handle = oc.BRep_Tool.Triangulation(face, location, 0);
  try {
    if (handle.IsNull()) return NO_FACE;
    oc.StdPrs_ToolTriangulatedShape.ComputeNormals_1(face, handle);
    const raw = readTriangulation(oc, handle.get());
    const placement = readLocation(location);
    const reversed = isReversed(face);
    if (reversed) {
      for (let i = 0; i < raw.indices.length; i += 3)
        [raw.indices[i + 1], raw.indices[i + 2]] = [raw.indices[i + 2], raw.indices[i + 1]];
      for (let i = 0; i < raw.normals.length; i++) raw.normals[i] = -raw.normals[i];
    }
    if (placement)
      for (let i = 0; i < raw.points.length / 3; i++) {
        raw.points.set(transformPoint(placement, pointAt(raw.points, i)), 3 * i);
        raw.normals.set(transformDirection(placement, pointAt(raw.normals, i)), 3 * i);
      }
    const found: RawFace = {
      positions: raw.points,
      normals: raw.normals,
      indices: raw.indices,
      ...(raw.uv && { uv: raw.uv }),
    };
    if (!edgeMap || !polylines) return found;
    explore(oc, face, ShapeType.edge, (current) => {
      const index = (edgeMap.FindIndex(current) as number) - 1;
      if (polylines.has(index)) return;
      const edge = oc.TopoDS.Edge_1(current);
      const polygon = oc.BRep_Tool.PolygonOnTriangulation_1(edge, handle, location);
      if (!polygon.IsNull()) {
        const nodes = readPolygonNodes(oc, polygon.get());
        const line = new Float64Array(3 * nodes.length);
        nodes.forEach((n, i) => line.set(pointAt(raw.points, n), 3 * i));
        polylines.set(index, { positions: line, parameters: readPolygonParameters(oc, polygon.get()) });
      }
      polygon.delete();
      edge.delete();
    });
    return found;
  } finally {
    for (const o of [handle, location, face]) o.delete();
  }
}
