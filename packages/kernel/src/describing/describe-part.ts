import {
  facesOfHole,
  knownBox,
  ringMesh,
  type EdgeFacts,
  type FaceFacts,
  type PartGeometry,
} from '@bathyscope/core/geometry';
import { recogniseHoles } from '@bathyscope/core/holes';
import { isFree } from '@bathyscope/core/mass';
import { distance, dot, pointAt, scale, type Vec3 } from '@bathyscope/core/math';
import { ARC_STEP, BOX_EXACT, SMOOTH_ANGLE } from '@bathyscope/core/tolerances';
import { boxWithFreeForms } from './describe-box.ts';
import { describeCurve } from './describe-edges.ts';
import { describeSurface, isConcave, outwardNormal, vertexPoint } from './describe-faces.ts';
import type { Occt } from '../occt/load.ts';
import { explore, indexedMap, ShapeType } from '../occt/shapes.ts';
import { findBodies, weighBodies } from './describe-bodies.ts';
import { FaceSurfaces } from './face-surface.ts';
import { fitMeshes, lineDeviation, meshRoundFaces, roundedTo } from './fit-meshes.ts';
import {
  DEFAULT_MESH,
  meshAgain,
  meshShape,
  readFace,
  type MeshSettings,
  type RawFace,
  type RawLine,
} from './mesh-shape.ts';
import { chooseOrigin, packFaces, packLines } from './pack-mesh.ts';

/** Times the chord that was asked for: the kernel's mesher strays so far on round faces. */
const KERNEL_STRAYS = 3;

/** Share of the work that is done when a part is meshed. From profiles of public files. */
const MESHED = 0.6;

/**
 * Everything there is to draw, pick and question one part. The shape keeps its triangulation until
 * `clean` is called on it.
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
  const chord = meshShape(oc, shape, settings);
  tell(MESHED);
  const topology = readTopology(oc, faceMap, edgeMap, vertexMap);

  const rawFaces: RawFace[] = [];
  const polylines = new Map<number, RawLine>();
  for (let f = 1; f <= faceMap.Size(); f++)
    rawFaces.push(readFace(oc, faceMap.FindKey(f), edgeMap, polylines));
  const vertices = new Float64Array(3 * vertexMap.Size());
  for (let v = 1; v <= vertexMap.Size(); v++)
    vertices.set(vertexPoint(oc, vertexMap.FindKey(v)), 3 * (v - 1));

  const edges = edgeFacts(oc, edgeMap, faceMap, topology, shape);
  const bare = fillBareFaces(oc, faceMap, rawFaces, topology, edges, (face) => {
    meshAgain(oc, face, chord, settings);
    return readFace(oc, face, edgeMap, polylines);
  });
  if (bare)
    warnings.push(
      `${bare} of ${rawFaces.length} faces could not be meshed and ${bare === 1 ? 'is' : 'are'} not drawn; exact figures still hold.`,
    );
  const faces = rawFaces.map((raw, f) => faceFacts(oc, faceMap.FindKey(f + 1), raw, topology.faceEdges[f]));
  const surfaces = new FaceSurfaces(oc);
  const under = rawFaces.map((raw, f) => surfaces.of(faceMap.FindKey(f + 1), raw.uv));
  // What is mended may stick out of an outline within the chord: the kernel's own points
  // are points of the shape.
  const met = [...rawFaces];
  meshRoundFaces(faces, rawFaces, settings.angle);
  const { now: deviations, before } = fitMeshes(faces, rawFaces, under, chord);
  const lineOff = lineDeviation(oc, edgeMap, edges, polylines);
  const bodies = findBodies(oc, shape, faceMap, faces, edges);
  const mass = weighBodies(
    {
      oc,
      faceMap,
      edgeMap,
      surfaces: under,
      bodies,
      faces,
      raw: rawFaces,
      deviations: deviations.map((d) => Math.max(d, lineOff)),
    },
    warnings,
    (share) => tell(MESHED + (1 - MESHED) * share),
  );
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
    chordTolerance: Math.max(lineOff, ...deviations) + roundedTo(rawFaces, origin),
    warnings,
    box: { min: [0, 0, 0], max: [0, 0, 0] },
    area: faces.reduce((sum, f) => sum + f.area, 0),
    mass,
  };
  const own = rawFaces.map((raw, f) => (isFree(under[f]) ? met[f] : raw));
  const known = knownBox({
    ...inDouble(part, own, polylines),
    chordTolerance: Math.max(part.chordTolerance, KERNEL_STRAYS * chord),
  });
  const reach = boxWithFreeForms(
    { oc, edgeMap, edges, lines: polylines, lineOff, faces, surfaces: under, raw: met, deviations: before },
    known.box,
  );
  part.box = reach.box;
  const within = Math.max(reach.within, known.within);
  if (within > BOX_EXACT) part.boxWithin = within;
  surfaces.delete();
  for (const map of [faceMap, edgeMap, vertexMap]) map.delete();
  return part;
}

/** A part with mesh and lines as the kernel has them: in single precision a point may stick out. */
function inDouble(
  part: PartGeometry,
  faces: readonly RawFace[],
  lines: ReadonlyMap<number, RawLine>,
): Parameters<typeof knownBox>[0] {
  const along = part.edges.map((_, e) => lines.get(e)?.positions ?? []);
  return {
    ...part,
    origin: [0, 0, 0],
    mesh: { ...packFaces([...faces], [0, 0, 0]), positions: joined(faces.map((f) => f.positions)) },
    lines: { ...part.lines, positions: joined(along) },
  };
}

function joined(pieces: readonly ArrayLike<number>[]): Float64Array {
  const all = new Float64Array(pieces.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const piece of pieces) {
    all.set(piece, at);
    at += piece.length;
  }
  return all;
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
    explore(oc, edgeMap.FindKey(e + 1), ShapeType.vertex, (v) =>
      ends.push((vertexMap.FindIndex(v) as number) - 1),
    );
    topology.edgeVertices.push(ends);
  }
  return topology;
}

/**
 * The mesher sometimes leaves a face without triangles. A cone or cylinder between two full circles is then
 * meshed here; others are tried again with other deflections; what stays bare is said.
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
    if (distance(pointAt(ring.positions, i), point) < distance(pointAt(ring.positions, nearest), point))
      nearest = i;
  if (dot(pointAt(ring.normals, nearest), normal) >= 0) return ring;
  for (let i = 0; i < ring.indices.length; i += 3)
    [ring.indices[i + 1], ring.indices[i + 2]] = [ring.indices[i + 2], ring.indices[i + 1]];
  return { ...ring, normals: ring.normals.map((x) => -x) };
}

function faceFacts(oc: Occt, shape: Occt, raw: RawFace, edges: number[]): FaceFacts {
  const face = oc.TopoDS.Face_1(shape);
  const surface = describeSurface(oc, face);
  face.delete();
  const normal: Vec3 = raw.normals.length ? pointAt(raw.normals, raw.indices[0]) : [0, 0, 0];
  if (surface.surface === 'plane' && dot(surface.axis!, normal) < 0) surface.axis = scale(surface.axis!, -1);
  const concave =
    raw.indices.length > 0 && isConcave(surface, pointAt(raw.positions, raw.indices[0]), normal);
  return { ...surface, area: 0, concave, body: -1, edges };
}

function edgeFacts(oc: Occt, edgeMap: Occt, faceMap: Occt, topology: Topology, shape: Occt): EdgeFacts[] {
  oc.BRepLib.EncodeRegularity_1(shape, SMOOTH_ANGLE);
  const facts: EdgeFacts[] = [];
  for (let e = 0; e < topology.edgeFaces.length; e++) {
    const edge = oc.TopoDS.Edge_1(edgeMap.FindKey(e + 1));
    const faces = topology.edgeFaces[e];
    const common = { faces, vertices: topology.edgeVertices[e], seam: false, smooth: false };
    if (oc.BRep_Tool.Degenerated(edge)) {
      // A point that a surface's pole shrinks to: no line to draw or pick, kept so that indices
      // stay those of the kernel.
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
  const continuity = (oc.BRep_Tool.Continuity_1(edge, a, b).constructor.name as string).replace(
    /.*GeomAbs_/,
    '',
  );
  a.delete();
  b.delete();
  return continuity !== 'C0';
}
