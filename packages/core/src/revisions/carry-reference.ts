import { Triangle, Vector3 } from 'three';
import type { PartGeometry } from '../geometry/part-geometry.ts';
import {
  invertAffine,
  multiply,
  IDENTITY,
  transformDirection,
  transformPoint,
  type Mat4,
} from '../math/mat4.ts';
import { add, pointAt, type Vec3 } from '../math/vec3.ts';
import type { ComponentPath } from '../model/structure.ts';
import {
  fingerprintOf,
  worseStatus,
  type IndexedKind,
  type Reference,
  type Resolved,
} from '../references/reference.ts';
import type { MatchedPart } from './match-parts.ts';
import type { Carried } from './match-structures.ts';

/** What became of a model in its next revision, as far as references ask for it. */
export interface RevisionMatch {
  component(path: ComponentPath): Carried<ComponentPath> | undefined;
  /** By the key of the old part the key of the new one. */
  part(key: string): Carried<string> | undefined;
  /** What became of the things of an old component's part; undefined where that is not known. */
  things(path: ComponentPath): { matched: MatchedPart; geometry: PartGeometry } | undefined;
  /** Where an old and a new component stand. */
  placements(path: ComponentPath): { was: Mat4; is: Mat4 } | undefined;
  /** How the model as a whole lies otherwise. */
  readonly motion: Mat4 | null;
}

/** A reference as it reads in the new revision, and how sure that is; as it was where it is lost. */
interface CarriedReference {
  reference: Reference;
  status: Resolved['status'];
}

/** What a reference became, marked where it is not plainly found. What was marked before stays so. */
export function carriedReference(
  reference: Reference,
  match: RevisionMatch,
  keyOf: (path: ComponentPath) => string | undefined,
): Reference {
  if (reference.became === 'lost') return reference;
  const { reference: now, status } = carryReference(reference, match, keyOf);
  const became = status === 'found' ? reference.became : status;
  return became ? { ...now, became } : now;
}

/**
 * How what was made from a reference moves with it, in model space: with its component, and with
 * its face or edge in that.
 */
export function motionOfReference(reference: Reference, match: RevisionMatch): Mat4 | null {
  if (reference.kind === 'datum') return match.motion;
  const placements = match.placements(reference.component);
  if (!placements) return null;
  const { was, is } = placements;
  // Of a whole component nothing is asked about its part, which need not have been compared.
  const things = 'index' in reference ? match.things(reference.component) : undefined;
  const motion = things?.matched.motion;
  const whole = multiply(is, multiply(motion ?? IDENTITY, invertAffine(was)));
  const shifts = reference.kind === 'face' ? things?.matched.shifts : undefined;
  if (!shifts || reference.kind !== 'face') return whole;
  const shift = transformDirection(is, pointAt(shifts, reference.index));
  return whole.map((x, i) => (i >= 12 && i < 15 ? x + shift[i - 12] : x));
}

/**
 * Carries a reference over to a new revision. @param keyOf key of the part of a new component;
 * undefined for assemblies
 */
function carryReference(
  reference: Reference,
  match: RevisionMatch,
  keyOf: (path: ComponentPath) => string | undefined,
): CarriedReference {
  const lost: CarriedReference = { reference, status: 'lost' };
  if (reference.kind === 'datum') return { reference, status: 'found' };
  const there = match.component(reference.component);
  if (!there) return lost;
  const part = keyOf(there.to);
  const { part: _, ...rest } = reference;
  const moved = { ...rest, component: there.to, ...(part !== undefined && { part }) } as Exclude<
    Reference,
    { kind: 'datum' }
  >;
  const status = (certain: boolean) => (certain ? 'found' : 'probably found') as CarriedReference['status'];
  // Of a cut the place is known, and the component; what is there is seen when it is cut.
  if (moved.kind === 'component') return { reference: moved, status: status(there.certain) };
  if ('plane' in moved) {
    const motion = motionOfReference(reference, match);
    const position = moved.position && motion ? transformPoint(motion, moved.position) : moved.position;
    return { reference: { ...moved, ...(position && { position }) }, status: status(there.certain) };
  }
  const things = match.things(reference.component);
  if (!things) return lost;
  const kind = moved.kind === 'point' ? (moved.snap.on === 'face' ? 'face' : 'edge') : moved.kind;
  const found = thingIn(things, kind, moved.index, moved.position);
  if (!found) return lost;
  const { motion } = things.matched;
  const carried: CarriedReference = {
    status: status(there.certain && found.same),
    reference: {
      ...moved,
      index: found.index,
      fingerprint: fingerprintOf(kind, found.index, things.geometry),
      ...(moved.position && { position: motion ? transformPoint(motion, moved.position) : moved.position }),
    },
  };
  if (carried.reference.kind !== 'point' || !carried.reference.with) return carried;
  const other = carryReference(carried.reference.with, match, keyOf);
  if (other.status === 'lost' || other.reference.kind !== 'edge') return lost;
  return {
    status: worseStatus(carried.status, other.status),
    reference: { ...carried.reference, with: other.reference },
  };
}

/** The new thing that an old one became. Of a face that was split it is the piece on which it was picked. */
function thingIn(
  { matched, geometry }: { matched: MatchedPart; geometry: PartGeometry },
  kind: IndexedKind,
  index: number,
  position: Vec3 | undefined,
): { index: number; same: boolean } | null {
  const { to, same } = matched[kind];
  if (index >= to.length) return null;
  if (to[index] >= 0) return { index: to[index], same: same[index] === 1 };
  const pieces = kind === 'face' ? matched.pieces.get(index) : undefined;
  if (!pieces || !position) return null;
  const at = matched.motion ? transformPoint(matched.motion, position) : position;
  const near = pieces
    .map((face) => distanceToFace(geometry, face, at))
    .map((d, i) => ({ d, face: pieces[i] }));
  const on = near.filter(({ d }) => d <= 2 * geometry.chordTolerance + ON_FACE);
  return on.length === 1 ? { index: on[0].face, same: false } : null;
}

/** mm: a place this near to a face was picked on it. */
const ON_FACE = 0.01;

function distanceToFace({ mesh, origin }: PartGeometry, face: number, at: Vec3): number {
  const corner = (i: number) => new Vector3(...add(pointAt(mesh.positions, mesh.indices[i]), origin));
  const [from, nearest] = [new Vector3(...at), new Vector3()];
  let least = Infinity;
  for (let t = mesh.faceStart[face]; t < mesh.faceStart[face + 1]; t++) {
    new Triangle(corner(3 * t), corner(3 * t + 1), corner(3 * t + 2)).closestPointToPoint(from, nearest);
    least = Math.min(least, nearest.distanceTo(from));
  }
  return least;
}
