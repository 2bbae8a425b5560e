import {
  boxCentre,
  boxOfPoints,
  combineMass,
  EMPTY_BOX,
  figuresOfMoments,
  isEmptyBox,
  MESH_MASS_WITHIN,
  meshMass,
  MOMENTS,
  type BodyFacts,
  type EdgeFacts,
  type FaceFacts,
  type MassFigures,
  type RingMesh,
  uniteBoxes,
  type Vec3,
} from '@bathyscope/core';
import { FaceReader, type OwnSums } from './face-sums.ts';
import type { Occt } from './occt/load.ts';
import { vertexPoint } from './describe-faces.ts';
import { explore, indexedMap, ShapeType } from './occt/shapes.ts';

/** The bodies of a shape, each with the numbers of its faces: solids first, then loose shells and faces. What has no face of its own is none. */
export function bodiesOf(oc: Occt, shape: Occt, faceMap: Occt): { shape: Occt; solid: boolean; faces: number[] }[] {
  const bodies: ReturnType<typeof bodiesOf> = [];
  const taken = new Set<number>();
  const add = (solid: boolean) => (owner: Occt) => {
    const own: number[] = [];
    explore(oc, owner, ShapeType.face, (s) => {
      const f = (faceMap.FindIndex(s) as number) - 1;
      if (taken.has(f)) return;
      taken.add(f);
      own.push(f);
    });
    if (own.length) bodies.push({ shape: owner, solid, faces: own });
  };
  explore(oc, shape, ShapeType.solid, add(true));
  explore(oc, shape, ShapeType.shell, add(false), ShapeType.solid);
  explore(oc, shape, ShapeType.face, add(false), ShapeType.shell);
  return bodies;
}

/** What is known of each body. Sets `body` of every face. */
export function findBodies(oc: Occt, shape: Occt, faceMap: Occt, faces: FaceFacts[], edges: EdgeFacts[]): BodyFacts[] {
  return bodiesOf(oc, shape, faceMap).map((body, b) => {
    for (const f of body.faces) faces[f].body = b;
    const facts = { closed: false, faces: body.faces };
    return { ...facts, closed: body.solid && isClosed(facts, faces, edges) };
  });
}

const isClosed = (body: BodyFacts, faces: FaceFacts[], edges: EdgeFacts[]): boolean =>
  body.faces.every((f) => faces[f].edges.every((e) => edges[e].seam || edges[e].faces.length === 2 || edges[e].faces.length > 2));

/**
 * The figures of all closed solids together, and the area of every face: sums over the faces of each body, taken about a point in its
 * middle, because far from it products of coordinates would lose what they differ by, and slits between faces would count more. A
 * solid one of whose faces has no sums is taken from the mesh, with a warning. Sets `area` of every face.
 */
export function weighBodies(
  oc: Occt,
  faceMap: Occt,
  bodies: readonly BodyFacts[],
  faces: FaceFacts[],
  raw: readonly RingMesh[],
  warnings: string[],
  tell: (share: number) => void,
): MassFigures | null {
  const figures: MassFigures[] = [];
  const reader = new FaceReader(oc);
  let done = 0;
  for (const body of bodies) {
    const box = body.faces.reduce((all, f) => uniteBoxes(all, boxOfPoints(raw[f].positions)), EMPTY_BOX);
    const about: Vec3 = isEmptyBox(box) ? [0, 0, 0] : boxCentre(box);
    const sums = body.faces.map((f) => {
      tell(done++ / faces.length);
      const its = reader.sums(faceMap.FindKey(f + 1), about);
      faces[f].area = its?.area ?? 0;
      return its;
    });
    if (!body.closed) continue;
    const mass = massOfFaces(sums, about) ?? massFromMesh(body, raw);
    if (mass?.accuracy.kind === 'mesh') warnings.push('The exact integration failed on one solid; its volume is taken from the mesh.');
    if (mass) figures.push(mass);
  }
  reader.delete();
  return combineMass(figures);
}

/** Volume figures and area (mm²) of one solid, of whatever shape it is a part. @returns null where its faces have no sums */
export function solidFigures(oc: Occt, solid: Occt): { mass: MassFigures; area: number } | null {
  const faces = indexedMap(oc, solid, ShapeType.face);
  const reader = new FaceReader(oc);
  try {
    const about = middleOf(oc, solid);
    const sums = Array.from({ length: faces.Size() as number }, (_, f) => reader.sums(faces.FindKey(f + 1), about));
    const mass = massOfFaces(sums, about);
    return mass && { mass, area: sums.reduce((sum, s) => sum + s!.area, 0) };
  } finally {
    reader.delete();
    faces.delete();
  }
}

/** The middle of the box about a shape's vertices, mm. */
function middleOf(oc: Occt, shape: Occt): Vec3 {
  const points: number[] = [];
  explore(oc, shape, ShapeType.vertex, (v) => points.push(...vertexPoint(oc, v)));
  return points.length ? boxCentre(boxOfPoints(points)) : [0, 0, 0];
}

function massOfFaces(sums: readonly (OwnSums | null)[], about: Vec3): MassFigures | null {
  const total = new Float64Array(MOMENTS);
  let within = 0;
  for (const face of sums) {
    if (!face) return null;
    for (let k = 0; k < MOMENTS; k++) total[k] += face.moments[k];
    within += face.volumeWithin;
  }
  return figuresOfMoments(total, about, within / Math.abs(total[0]), { kind: 'exact' });
}

function massFromMesh(body: BodyFacts, raw: readonly RingMesh[]): MassFigures | null {
  const positions: number[] = [];
  const indices: number[] = [];
  for (const f of body.faces) {
    const base = positions.length / 3;
    for (const x of raw[f].positions) positions.push(x);
    for (const i of raw[f].indices) indices.push(i + base);
  }
  return meshMass(positions, indices, MESH_MASS_WITHIN);
}
