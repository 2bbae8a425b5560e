import type { EdgeFacts, FaceFacts } from '@bathyscope/core/geometry';
import type { FreeSurface, ParametricSurface } from '@bathyscope/core/mass';
import { boxDiagonal, distance, distanceToSegment, pointAt, type Vec3 } from '@bathyscope/core/math';
import {
  meshDeviation,
  meshedSurface,
  meshWithinChord,
  refineWithinChord,
  roundSurface,
  type MeshedSurface,
} from '@bathyscope/core/meshing';
import { ROUND_CHORD_RELATIVE, SINGLE_PRECISION } from '@bathyscope/core/tolerances';
import { curveClass } from './describe-edges.ts';
import { FaceSurfaces } from './face-surface.ts';
import { meshShape, readFace, type MeshSettings, type RawFace, type RawLine } from './mesh-shape.ts';
import type { Occt } from '../occt/load.ts';
import { copyXYZ } from '../occt/memory.ts';
import { indexedMap, ShapeType } from '../occt/shapes.ts';
import { boxOfMeshes } from './pack-mesh.ts';

/*
 * What the kernel's mesher leaves too far from the shape is mended, and how far it is then is measured:
 * nobody believes what was asked for.
 */

/**
 * Of the chord: what is mended is brought a little nearer, so that what lies between
 * places keeps within it too.
 */
const REFINED = 0.9;

/**
 * Brings the triangles of all faces within a chord of their surfaces, in place.
 * @param surfaces under the faces
 * @param chord mm
 * @returns mm: how far the triangles of each face lie from it now, inside its outline, and
 * how far they did at first
 */
export function fitMeshes(
  faces: readonly FaceFacts[],
  raw: RawFace[],
  surfaces: readonly (ParametricSurface | FreeSurface)[],
  chord: number,
): { now: number[]; before: number[] } {
  const before = faces.map(() => 0);
  const now = faces.map((face, f) => {
    if (!raw[f].indices.length) return 0;
    const { surface, beside } = comparedWith(face, surfaces[f]);
    if (!surface) return 0;
    const fitted = fittedTo(surface, raw[f], chord);
    raw[f] = fitted.mesh;
    before[f] = fitted.before + beside;
    return fitted.off + beside;
  });
  return { now, before };
}

/** Triangles within a chord of their surface, as far as that can be had, and how far they are off. */
function fittedTo(
  surface: MeshedSurface,
  mesh: RawFace,
  chord: number,
): { mesh: RawFace; off: number; before: number } {
  const found = meshDeviation(mesh, surface);
  const before = found.most;
  if (before <= chord) return { mesh, off: before, before };
  const finer = refineWithinChord(mesh, surface, REFINED * chord, found.each);
  const then = meshDeviation(finer, surface);
  return then.most < before ? { mesh: finer, off: then.most, before } : { mesh, off: before, before };
}

/** What a face's triangles are compared with, and how far that may itself be from the face, mm. */
function comparedWith(
  face: FaceFacts,
  surface: ParametricSurface | FreeSurface,
): { surface: MeshedSurface | null; beside: number } {
  if (face.accuracy.kind === 'recognised')
    return { surface: recognisedSurface(face), beside: face.accuracy.deviation };
  return { surface: roundSurface(face) ?? meshedSurface(surface), beside: 0 };
}

/** What was recognised in a free-form face, as if it were that. */
function recognisedSurface(face: FaceFacts): MeshedSurface | null {
  const { surface, origin, axis, radius, semiAngle } = face;
  if (surface !== 'cylinder' && surface !== 'cone') return roundSurface(face);
  return meshedSurface({
    kind: surface,
    origin: origin!,
    x: axis!,
    y: axis!,
    axis: axis!,
    first: radius!,
    second: semiAngle ?? 0,
  });
}

/**
 * Meshes spheres and tori anew, in place. The chord is that of the mesh's own box: the kernel's, which takes
 * in the poles of splines, can be twice as large.
 */
export function meshRoundFaces(faces: readonly FaceFacts[], raw: RawFace[], angle: number): void {
  const surfaces = faces.map((face, f) => (raw[f].indices.length ? roundSurface(face) : null));
  if (!surfaces.some(Boolean)) return;
  const chord = ROUND_CHORD_RELATIVE * boxDiagonal(boxOfMeshes(raw));
  surfaces.forEach((surface, f) => {
    if (surface) raw[f] = meshWithinChord(raw[f], surface, chord, angle);
  });
}

/** Shares between two points of an edge at which its curve is looked at. */
const BETWEEN = [0.25, 0.5, 0.75];
/** The most may lie between. */
const BETWEEN_THEM = 1.05;

/** mm: how far the lines of edges lie from their curves at most. */
export function lineDeviation(
  oc: Occt,
  edgeMap: Occt,
  edges: readonly EdgeFacts[],
  lines: ReadonlyMap<number, RawLine>,
): number {
  let most = 0;
  for (const [e, { positions, parameters }] of lines) {
    const edge = edges[e];
    if (edge.curve === 'line' && edge.accuracy.kind === 'exact') continue;
    if (edge.curve === 'circle' && edge.accuracy.kind === 'exact')
      most = Math.max(most, sagitta(positions, edge.radius!));
    else if (parameters && parameters.length === positions.length / 3)
      most = Math.max(most, BETWEEN_THEM * curveDeviation(oc, edgeMap.FindKey(e + 1), positions, parameters));
  }
  return most;
}

/** Of an arc: what its chords cut off at most. */
function sagitta(positions: Float64Array, radius: number): number {
  let longest = 0;
  for (let i = 1; i < positions.length / 3; i++)
    longest = Math.max(longest, distance(pointAt(positions, i - 1), pointAt(positions, i)));
  return radius - Math.sqrt(Math.max(0, radius * radius - (longest * longest) / 4));
}

function curveDeviation(oc: Occt, shape: Occt, positions: Float64Array, parameters: Float64Array): number {
  const edge = oc.TopoDS.Edge_1(shape);
  const curve = new oc.BRepAdaptor_Curve_2(edge);
  const place = new oc.gp_Pnt_1();
  const xyz = new Float64Array(3);
  let most = 0;
  for (let i = 1; i < parameters.length; i++) {
    const [a, b] = [pointAt(positions, i - 1), pointAt(positions, i)];
    for (const share of BETWEEN) {
      curve.D0(parameters[i - 1] + share * (parameters[i] - parameters[i - 1]), place);
      copyXYZ(oc, place, xyz, 0);
      most = Math.max(most, distanceToSegment([xyz[0], xyz[1], xyz[2]], a, b));
    }
  }
  for (const o of [place, curve, edge]) o.delete();
  return most;
}

/** mm: what single precision adds, at the corner that is farthest from the origin of a mesh. */
export const roundedTo = (faces: readonly RawFace[], origin: Vec3): number =>
  SINGLE_PRECISION *
  faces.reduce(
    (most, { positions }) => positions.reduce((m, x, i) => Math.max(m, Math.abs(x - origin[i % 3])), most),
    0,
  );

/**
 * The mesh of a shape of which nothing else is known, mended where it is too far off. @returns within, mm:
 * how far it lies from the shape at most
 */
export function measuredMesh(
  oc: Occt,
  shape: Occt,
  settings: MeshSettings,
): { faces: RawFace[]; within: number } {
  const chord = meshShape(oc, shape, settings);
  const [faceMap, edgeMap] = [indexedMap(oc, shape, ShapeType.face), indexedMap(oc, shape, ShapeType.edge)];
  const surfaces = new FaceSurfaces(oc);
  const lines = new Map<number, RawLine>();
  let within = 0;
  const faces = Array.from({ length: faceMap.Size() as number }, (_, f) => {
    const face = faceMap.FindKey(f + 1);
    const raw = readFace(oc, face, edgeMap, lines);
    const surface = raw.indices.length ? meshedSurface(surfaces.of(face, raw.uv)) : null;
    if (!surface) return raw;
    const { mesh, off } = fittedTo(surface, raw, chord);
    within = Math.max(within, off);
    return mesh;
  });
  for (const [e, { positions, parameters }] of lines) {
    const edge = oc.TopoDS.Edge_1(edgeMap.FindKey(e + 1));
    if (parameters && curveClass(oc, edge) !== 'Line')
      within = Math.max(within, BETWEEN_THEM * curveDeviation(oc, edge, positions, parameters));
    edge.delete();
  }
  for (const o of [surfaces, faceMap, edgeMap]) o.delete();
  return { faces, within };
}
