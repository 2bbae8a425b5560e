import { sharePercent } from '@bathyscope/core/facts';
import {
  withinOf,
  type BodyFacts,
  type EdgeFacts,
  type FaceFacts,
  type MassFigures,
  type RingMesh,
  type SumAccuracy,
} from '@bathyscope/core/geometry';
import {
  areaOfMesh,
  combineMass,
  figuresOfMoments,
  meshMass,
  MOMENTS,
  type FreeSurface,
  type ParametricSurface,
} from '@bathyscope/core/mass';
import {
  add,
  boxCentre,
  boxDiagonal,
  boxOfPoints,
  distance,
  EMPTY_BOX,
  isEmptyBox,
  length,
  uniteBoxes,
  type Vec3,
} from '@bathyscope/core/math';
import { LAYER, SLITS_TELL } from '@bathyscope/core/tolerances';
import { fixed, significant } from '@bathyscope/core/units';
import { FaceReader, type OwnSums, type Slit } from './face-sums.ts';
import type { Occt } from '../occt/load.ts';
import { vertexPoint } from './describe-faces.ts';
import { explore, indexedMap, ShapeType } from '../occt/shapes.ts';

/**
 * The bodies of a shape, each with the numbers of its faces: solids first, then loose shells and faces. What
 * has no face of its own is none.
 */
export function bodiesOf(
  oc: Occt,
  shape: Occt,
  faceMap: Occt,
): { shape: Occt; solid: boolean; faces: number[] }[] {
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
export function findBodies(
  oc: Occt,
  shape: Occt,
  faceMap: Occt,
  faces: FaceFacts[],
  edges: EdgeFacts[],
): BodyFacts[] {
  return bodiesOf(oc, shape, faceMap).map((body, b) => {
    for (const f of body.faces) faces[f].body = b;
    const facts = { closed: false, faces: body.faces };
    return { ...facts, closed: body.solid && isClosed(facts, faces, edges) };
  });
}

const isClosed = (body: BodyFacts, faces: FaceFacts[], edges: EdgeFacts[]): boolean =>
  body.faces.every((f) =>
    faces[f].edges.every((e) => edges[e].seam || edges[e].faces.length === 2 || edges[e].faces.length > 2),
  );

/** A shape with what is known of it already. Deviations: how far each face's triangles may be off, mm. */
export interface ShapeToWeigh {
  oc: Occt;
  faceMap: Occt;
  edgeMap: Occt;
  surfaces: readonly (ParametricSurface | FreeSurface)[];
  bodies: readonly BodyFacts[];
  faces: FaceFacts[];
  raw: readonly RingMesh[];
  deviations: readonly number[];
}

/**
 * The figures of all closed solids together, and the area of every face: sums over the faces of each body,
 * taken about a point in its middle, because far from it products of coordinates would lose what they differ
 * by, and slits between faces would count more. A solid one of whose faces has no sums is taken from the
 * mesh, with a warning. Sets `area` of every face.
 */
export function weighBodies(
  { oc, faceMap, edgeMap, surfaces, bodies, faces, raw, deviations }: ShapeToWeigh,
  warnings: string[],
  tell: (share: number) => void,
): MassFigures | null {
  const figures: MassFigures[] = [];
  const open: OpenSolid[] = [];
  const reader = new FaceReader(oc, edgeMap);
  let done = 0;
  for (const body of bodies) {
    const box = body.faces.reduce((all, f) => uniteBoxes(all, boxOfPoints(raw[f].positions)), EMPTY_BOX);
    const about: Vec3 = isEmptyBox(box) ? [0, 0, 0] : boxCentre(box);
    const sums = body.faces.map((f) => {
      tell(done++ / faces.length);
      const its = reader.sums(faceMap.FindKey(f + 1), about, surfaces[f]);
      faces[f].area = its?.area ?? 0;
      return its;
    });
    const slits = reader.takeSlits();
    if (!body.closed) continue;
    const meshed = massFromMesh(body, raw, deviations);
    const mass = checkedByMesh(massOfFaces(sums, about, slits, boxDiagonal(box) / 2), meshed) ?? meshed;
    if (!mass) continue;
    figures.push(mass);
    if (mass.accuracy.kind === 'slits') open.push({ within: withinOf(mass.accuracy), slit: widest(slits) });
    else warnings.push(...warningsOf(mass.accuracy));
  }
  reader.delete();
  warnings.push(...openWarning(open));
  return combineMass(figures);
}

/**
 * Volume figures and area (mm²) of one solid, of whatever shape it is a part. @param from the point that sums
 * are taken about, its middle as a rule @returns null where its faces have no sums
 */
export function solidFigures(oc: Occt, solid: Occt, from?: Vec3): { mass: MassFigures; area: number } | null {
  const [faces, edges] = [indexedMap(oc, solid, ShapeType.face), indexedMap(oc, solid, ShapeType.edge)];
  const reader = new FaceReader(oc, edges);
  try {
    const { middle, reach } = middleOf(oc, solid);
    const about = from ?? middle;
    const sums = Array.from({ length: faces.Size() as number }, (_, f) =>
      reader.sums(faces.FindKey(f + 1), about),
    );
    const mass = massOfFaces(sums, about, reader.takeSlits(), reach + distance(about, middle));
    return mass && { mass, area: sums.reduce((sum, s) => sum + s!.area, 0) };
  } finally {
    reader.delete();
    faces.delete();
    edges.delete();
  }
}

/** The middle of the box about a shape's vertices, and how far it reaches from there, mm. */
function middleOf(oc: Occt, shape: Occt): { middle: Vec3; reach: number } {
  const points: number[] = [];
  explore(oc, shape, ShapeType.vertex, (v) => points.push(...vertexPoint(oc, v)));
  if (!points.length) return { middle: [0, 0, 0], reach: 0 };
  const box = boxOfPoints(points);
  return { middle: boxCentre(box), reach: boxDiagonal(box) / 2 };
}

/** What lies between places at which slits were measured may be wider. */
const SLIT_SAFETY = 1.5;

/** @param reach mm: half the diagonal of the body's box */
function massOfFaces(
  sums: readonly (OwnSums | null)[],
  about: Vec3,
  slits: readonly Slit[],
  reach: number,
): MassFigures | null {
  const total = new Float64Array(MOMENTS);
  let within = 0;
  let open: Vec3 = [0, 0, 0];
  let byKernel = false;
  for (const face of sums) {
    if (!face) return null;
    for (let k = 0; k < MOMENTS; k++) total[k] += face.moments[k];
    within += face.volumeWithin;
    open = add(open, face.vector);
    byKernel ||= face.byKernel;
  }
  // About another point a shell that is open by an area would have another volume; a slit gives a third of
  // its area times its distance.
  const vector = byKernel ? 0 : length(open);
  const gaps = slits.reduce((sum, s) => sum + s.volume, 0);
  const relative = (within + (vector * reach) / 3 + SLIT_SAFETY * gaps) / Math.abs(total[0]);
  return figuresOfMoments(
    total,
    about,
    relative,
    relative > SLITS_TELL ? { kind: 'slits', within: relative } : { kind: 'exact' },
  );
}

/**
 * The second way, which shares nothing with the first but the shape: where the mesh says otherwise,
 * the first is an estimate.
 */
function checkedByMesh(mass: MassFigures | null, meshed: MassFigures | null): MassFigures | null {
  if (!mass || !meshed) return mass;
  const off = Math.abs(mass.volume - meshed.volume);
  const agrees = off <= withinOf(meshed.accuracy) * meshed.volume + mass.volumeErrorEstimate * mass.volume;
  return agrees ? mass : { ...mass, accuracy: { kind: 'estimate', within: off / mass.volume } };
}

function warningsOf(accuracy: SumAccuracy): string[] {
  if (accuracy.kind === 'mesh')
    return ['The exact integration failed on one solid; its volume is taken from the mesh.'];
  if (accuracy.kind !== 'estimate') return [];
  return [
    `The volume of one solid is an estimate: its faces and its mesh differ by ${sharePercent(accuracy.within)}.`,
  ];
}

/** A solid whose faces do not quite meet: within what share its volume is known, and its largest slit. */
interface OpenSolid {
  within: number;
  slit: Slit;
}

const widest = (slits: readonly Slit[]): Slit =>
  slits.reduce((most, s) => (s.area > most.area ? s : most), { width: 0, at: [0, 0, 0], area: 0, volume: 0 });

/** One sentence for all of them, with the place of the worst. */
function openWarning(open: readonly OpenSolid[]): string[] {
  if (!open.length) return [];
  const { within, slit } = open.reduce((most, o) => (o.within > most.within ? o : most));
  const where = slit.width
    ? `, the largest slit of ${significant(slit.width, 2)} mm at ${slit.at.map((x) => fixed(x, 3)).join(', ')}`
    : '';
  const [whose, known] =
    open.length === 1
      ? ['one solid', 'its volume is known']
      : [`${open.length} solids`, 'their volumes are known'];
  return [`Faces of ${whose} do not quite meet: ${known} within ${sharePercent(within)}${where}.`];
}

/** @param deviations mm: how far each face's triangles may be off */
function massFromMesh(
  body: BodyFacts,
  raw: readonly RingMesh[],
  deviations: readonly number[],
): MassFigures | null {
  const positions: number[] = [];
  const indices: number[] = [];
  let between = 0;
  for (const f of body.faces) {
    const base = positions.length / 3;
    for (const x of raw[f].positions) positions.push(x);
    for (const i of raw[f].indices) indices.push(i + base);
    between += deviations[f] * areaOfMesh(raw[f]);
  }
  const mass = meshMass(positions, indices, 0);
  // What lies between two closed surfaces that are so far apart.
  return mass && { ...mass, accuracy: { kind: 'mesh', within: (LAYER * between) / mass.volume } };
}
