import {
  ARC_STEP,
  distance,
  dot,
  exactBox,
  facesOfHole,
  AREA_RELATIVE,
  MESH_ANGLE,
  MESH_CHORD_RELATIVE,
  pointAt,
  recogniseHoles,
  ringMesh,
  scale,
  SMOOTH_ANGLE,
  transformDirection,
  transformPoint,
  type EdgeFacts,
  type FaceFacts,
  type PartGeometry,
  type RingMesh,
  type Vec3,
} from '@bathyscope/core';
import { describeCurve } from './describe-edges.ts';
import { describeSurface, faceArea, isConcave, outwardNormal, vertexPoint } from './describe-faces.ts';
import type { Occt } from './occt/load.ts';
import { readLocation, readPolygonNodes, readTriangulation } from './occt/memory.ts';
import { explore, indexedMap, ShapeType } from './occt/shapes.ts';
import { findBodies, partMass } from './describe-bodies.ts';
import { chooseOrigin, packFaces, packLines } from './pack-mesh.ts';

export interface MeshSettings {
  /** Relative to the diagonal of the part's box. */
  chord: number;
  /** rad */
  angle: number;
}

export const DEFAULT_MESH: MeshSettings = { chord: MESH_CHORD_RELATIVE, angle: MESH_ANGLE };

type RawFace = RingMesh;

/** Share of the work that is done when a part is meshed, and when its faces are described; the rest is its mass. From profiles of public files. */
const MESHED = 0.3;
const DESCRIBED = 0.65;

/**
 * Everything there is to draw, pick and question one part. The shape keeps its triangulation until `clean` is called on it.
 * @param tell hears how far it is, 0–1
 */
export function describePart(
  oc: Occt,
  shape: Occt,
  settings: MeshSettings = DEFAULT_MESH,
  tell: (share: number) => void = () => {},
): PartGeometry {
  const warnings: string[] = [];
  const faceMap = indexedMap(oc, shape, ShapeType.face);
  const edgeMap = indexedMap(oc, shape, ShapeType.edge);
  const vertexMap = indexedMap(oc, shape, ShapeType.vertex);
  const chordTolerance = meshShape(oc, shape, settings);
  tell(MESHED);
  const topology = readTopology(oc, faceMap, edgeMap, vertexMap);

  const rawFaces: RawFace[] = [];
  const polylines = new Map<number, Float64Array>();
  for (let f = 1; f <= faceMap.Size(); f++) rawFaces.push(readFace(oc, faceMap.FindKey(f), edgeMap, polylines));
  const vertices = new Float64Array(3 * vertexMap.Size());
  for (let v = 1; v <= vertexMap.Size(); v++) vertices.set(vertexPoint(oc, vertexMap.FindKey(v)), 3 * (v - 1));

  const edges = edgeFacts(oc, edgeMap, faceMap, topology, shape);
  const bare = fillBareFaces(oc, faceMap, rawFaces, topology, edges, (face) => {
    meshAgain(oc, face, chordTolerance, settings);
    return readFace(oc, face, edgeMap, polylines);
  });
  if (bare)
    warnings.push(
      `${bare} of ${rawFaces.length} faces could not be meshed and ${bare === 1 ? 'is' : 'are'} not drawn; exact figures still hold.`,
    );
  const faces = rawFaces.map((raw, f) => {
    tell(MESHED + ((DESCRIBED - MESHED) * f) / rawFaces.length);
    return faceFacts(oc, faceMap.FindKey(f + 1), raw, topology.faceEdges[f]);
  });
  const bodies = findBodies(oc, shape, faceMap, faces, edges);
  const sheets = bodies.filter((b) => !b.closed).length;
  if (sheets && sheets < bodies.length)
    warnings.push(
      `Beside what is solid there ${sheets === 1 ? 'is one open sheet, which is' : `are ${sheets} open sheets, which are`} not in the volume.`,
    );

  const origin = chooseOrigin(rawFaces, vertices);
  const mesh = packFaces(rawFaces, origin);
  const lines = packLines(polylines, edges.length, origin);
  const holes = recogniseHoles({ origin, mesh, lines, vertices, faces, edges });
  holes.forEach((hole, h) => facesOfHole(hole).forEach((f) => (faces[f].hole = h)));
  const part: PartGeometry = {
    origin,
    mesh,
    lines,
    vertices,
    faces,
    edges,
    bodies,
    holes,
    chordTolerance,
    warnings,
    box: { min: [0, 0, 0], max: [0, 0, 0] },
    area: faces.reduce((sum, f) => sum + f.area, 0),
    mass: partMass(oc, shape, origin, bodies, faces, rawFaces, warnings, (share) => tell(DESCRIBED + (1 - DESCRIBED) * share)),
  };
  part.box = exactBox(part);
  for (const map of [faceMap, edgeMap, vertexMap]) map.delete();
  return part;
}

/** Forgets the triangulation, so that the stored shape is the source shape alone. */
export const clean = (oc: Occt, shape: Occt): void => oc.BRepTools.Clean(shape, true);

function meshShape(oc: Occt, shape: Occt, settings: MeshSettings): number {
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

interface Topology {
  faceEdges: number[][];
  edgeFaces: number[][];
  /** Edges that occur twice in the outline of one face. */
  doubled: Set<number>;
  edgeVertices: number[][];
}

function readTopology(oc: Occt, faceMap: Occt, edgeMap: Occt, vertexMap: Occt): Topology {
  const edgeCount = edgeMap.Size() as number;
  const topology: Topology = {
    faceEdges: [],
    edgeFaces: Array.from({ length: edgeCount }, () => []),
    doubled: new Set(),
    edgeVertices: [],
  };
  for (let f = 0; f < faceMap.Size(); f++) {
    const own: number[] = [];
    explore(oc, faceMap.FindKey(f + 1), ShapeType.edge, (edge) => {
      const e = (edgeMap.FindIndex(edge) as number) - 1;
      if (own.includes(e)) topology.doubled.add(e);
      else {
        own.push(e);
        topology.edgeFaces[e].push(f);
      }
    });
    topology.faceEdges.push(own);
  }
  for (let e = 0; e < edgeCount; e++) {
    const ends: number[] = [];
    explore(oc, edgeMap.FindKey(e + 1), ShapeType.vertex, (v) => ends.push((vertexMap.FindIndex(v) as number) - 1));
    topology.edgeVertices.push(ends);
  }
  return topology;
}

/**
 * The mesher sometimes leaves a face without triangles. A cone or cylinder between two full circles is then meshed
 * here; others are tried again with other deflections; what stays bare is said.
 */
function fillBareFaces(
  oc: Occt,
  faceMap: Occt,
  raw: RawFace[],
  topology: Topology,
  edges: EdgeFacts[],
  retry: (face: Occt) => RawFace,
): number {
  let bare = 0;
  raw.forEach((face, f) => {
    if (face.indices.length) return;
    const shape = faceMap.FindKey(f + 1);
    const rims = topology.faceEdges[f].map((e) => edges[e]).filter((e) => !e.seam);
    const ring = rims.length === 2 ? ringMesh(rims[0], rims[1], ARC_STEP) : null;
    raw[f] = ring ? turnOutward(oc, shape, ring) : retry(shape);
    if (!raw[f].indices.length) bare++;
  });
  return bare;
}

/** Turns a ring mesh inside out when the face's own outward normal points towards the axis. */
function turnOutward(oc: Occt, shape: Occt, ring: RawFace): RawFace {
  const { point, normal } = outwardNormal(oc, shape);
  let nearest = 0;
  for (let i = 1; i < ring.positions.length / 3; i++)
    if (distance(pointAt(ring.positions, i), point) < distance(pointAt(ring.positions, nearest), point)) nearest = i;
  if (dot(pointAt(ring.normals, nearest), normal) >= 0) return ring;
  for (let i = 0; i < ring.indices.length; i += 3) [ring.indices[i + 1], ring.indices[i + 2]] = [ring.indices[i + 2], ring.indices[i + 1]];
  return { ...ring, normals: ring.normals.map((x) => -x) };
}

function meshAgain(oc: Occt, face: Occt, chord: number, settings: MeshSettings): void {
  for (const factor of [0.25, 4]) {
    oc.BRepTools.Clean(face, true);
    new oc.BRepMesh_IncrementalMesh_2(face, chord * factor, false, settings.angle * (factor > 1 ? 2 : 1), false).delete();
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

const NO_FACE: RawFace = { positions: new Float64Array(0), normals: new Float32Array(0), indices: new Uint32Array(0) };

/** Triangles and normals of one face in the part's frame; the polylines of its edges that are not known yet go to `polylines`. */
function readFace(oc: Occt, shape: Occt, edgeMap: Occt, polylines: Map<number, Float64Array>): RawFace {
  const face = oc.TopoDS.Face_1(shape);
  const location = new oc.TopLoc_Location_1();
  const handle = oc.BRep_Tool.Triangulation(face, location, 0);
  try {
    if (handle.IsNull()) return NO_FACE;
    oc.StdPrs_ToolTriangulatedShape.ComputeNormals_1(face, handle);
    const raw = readTriangulation(oc, handle.get());
    const placement = readLocation(location);
    const reversed = face.Orientation_1().value === 1;
    if (reversed) {
      for (let i = 0; i < raw.indices.length; i += 3) [raw.indices[i + 1], raw.indices[i + 2]] = [raw.indices[i + 2], raw.indices[i + 1]];
      for (let i = 0; i < raw.normals.length; i++) raw.normals[i] = -raw.normals[i];
    }
    if (placement)
      for (let i = 0; i < raw.points.length / 3; i++) {
        raw.points.set(transformPoint(placement, pointAt(raw.points, i)), 3 * i);
        raw.normals.set(transformDirection(placement, pointAt(raw.normals, i)), 3 * i);
      }
    explore(oc, face, ShapeType.edge, (current) => {
      const index = (edgeMap.FindIndex(current) as number) - 1;
      if (polylines.has(index)) return;
      const edge = oc.TopoDS.Edge_1(current);
      const polygon = oc.BRep_Tool.PolygonOnTriangulation_1(edge, handle, location);
      if (!polygon.IsNull()) {
        const nodes = readPolygonNodes(oc, polygon.get());
        const line = new Float64Array(3 * nodes.length);
        nodes.forEach((n, i) => line.set(pointAt(raw.points, n), 3 * i));
        polylines.set(index, line);
      }
      polygon.delete();
      edge.delete();
    });
    return { positions: raw.points, normals: raw.normals, indices: raw.indices };
  } finally {
    for (const o of [handle, location, face]) o.delete();
  }
}

function faceFacts(oc: Occt, shape: Occt, raw: RawFace, edges: number[]): FaceFacts {
  const face = oc.TopoDS.Face_1(shape);
  const surface = describeSurface(oc, face);
  const area = faceArea(oc, face, AREA_RELATIVE);
  face.delete();
  const normal: Vec3 = raw.normals.length ? pointAt(raw.normals, raw.indices[0]) : [0, 0, 0];
  if (surface.surface === 'plane' && dot(surface.axis!, normal) < 0) surface.axis = scale(surface.axis!, -1);
  const concave = raw.indices.length > 0 && isConcave(surface, pointAt(raw.positions, raw.indices[0]), normal);
  return { ...surface, area, concave, body: -1, edges };
}

function edgeFacts(oc: Occt, edgeMap: Occt, faceMap: Occt, topology: Topology, shape: Occt): EdgeFacts[] {
  oc.BRepLib.EncodeRegularity_1(shape, SMOOTH_ANGLE);
  const facts: EdgeFacts[] = [];
  for (let e = 0; e < topology.edgeFaces.length; e++) {
    const edge = oc.TopoDS.Edge_1(edgeMap.FindKey(e + 1));
    const faces = topology.edgeFaces[e];
    const common = { faces, vertices: topology.edgeVertices[e], seam: false, smooth: false };
    if (oc.BRep_Tool.Degenerated(edge)) {
      // A point that a surface's pole shrinks to: no line to draw or pick, kept so that indices stay those of the kernel.
      facts.push({ ...common, curve: 'freeform', accuracy: { kind: 'exact' }, length: 0, seam: true });
    } else {
      const seam = topology.doubled.has(e) && faces.length === 1;
      const smooth = faces.length === 2 && isSmooth(oc, edge, faceMap, faces);
      facts.push({ ...common, ...describeCurve(oc, edge), seam, smooth });
    }
    edge.delete();
  }
  return facts;
}

function isSmooth(oc: Occt, edge: Occt, faceMap: Occt, faces: number[]): boolean {
  const [a, b] = faces.map((f) => oc.TopoDS.Face_1(faceMap.FindKey(f + 1)));
  const continuity = (oc.BRep_Tool.Continuity_1(edge, a, b).constructor.name as string).replace(/.*GeomAbs_/, '');
  a.delete();
  b.delete();
  return continuity !== 'C0';
}
