import {
  add,
  combineMass,
  length,
  meshMass,
  VOLUME_RELATIVE,
  type BodyFacts,
  type EdgeFacts,
  type FaceFacts,
  type MassFigures,
  type RingMesh,
  RELAXED_INTEGRATION,
  MESH_MASS_WITHIN,
  scale,
  type Vec3,
} from '@bathyscope/core';
import type { Occt } from './occt/load.ts';
import { explore, movedShape, ShapeType } from './occt/shapes.ts';
import { solidMass } from './solid-mass.ts';

/** Above this many free-form faces the exact integration of one solid may take minutes; it is then asked for less (the bound says so). */
const MANY_FREEFORM_FACES = 400;

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
 * The figures of all closed solids together, integrated about `origin`: far from it products of coordinates would lose what
 * they differ by. Copied there, not placed there, because the kernel integrates about the origin of a
 * placement. What their exact integration could not give comes from the mesh, with a warning.
 */
export function partMass(
  oc: Occt,
  shape: Occt,
  origin: Vec3,
  bodies: BodyFacts[],
  faces: FaceFacts[],
  raw: RingMesh[],
  warnings: string[],
  tell: (share: number) => void,
): MassFigures | null {
  const far = length(origin) > 0;
  const near = far ? movedShape(oc, shape, scale(origin, -1)) : shape;
  const solids: Occt[] = [];
  explore(oc, near, ShapeType.solid, (s) => solids.push(s));
  const figures: MassFigures[] = [];
  solids.slice(0, bodies.length).forEach((solid, b) => {
    tell(b / solids.length);
    if (!bodies[b].closed) return;
    const freeform = bodies[b].faces.filter((f) => faces[f].accuracy.kind === 'recognised' || faces[f].surface === 'freeform').length;
    const exact = solidMass(oc, solid, freeform > MANY_FREEFORM_FACES ? RELAXED_INTEGRATION : VOLUME_RELATIVE);
    const mass = exact ? { ...exact, centreOfGravity: add(exact.centreOfGravity, origin) } : massFromMesh(bodies[b], raw);
    if (!exact && mass) warnings.push('The exact integration failed on one solid; its volume is taken from the mesh.');
    if (mass) figures.push(mass);
  });
  if (far) near.delete();
  return combineMass(figures);
}

function massFromMesh(body: BodyFacts, raw: RingMesh[]): MassFigures | null {
  const positions: number[] = [];
  const indices: number[] = [];
  for (const f of body.faces) {
    const base = positions.length / 3;
    for (const x of raw[f].positions) positions.push(x);
    for (const i of raw[f].indices) indices.push(i + base);
  }
  return meshMass(positions, indices, MESH_MASS_WITHIN);
}
