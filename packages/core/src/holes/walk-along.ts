import type { FaceFacts } from '../geometry/part-geometry.ts';
import { cross, dot, length, pointAt, subtract, type Vec3 } from '../math/vec3.ts';
import { COAXIAL_ANGLE, COAXIAL_RELATIVE } from '../tolerances.ts';
import {
  beyond,
  joined,
  linePoints,
  ringsOf,
  offAxis,
  type AxisLine,
  type HoleScope,
  type Loop,
} from './face-loops.ts';
import type { BoreWall, Ring } from './bore-walls.ts';

/** A turned face about the axis that a walk along it comes through. */
export interface Turned {
  surface: 'plane' | 'cylinder' | 'cone' | 'torus' | 'sphere';
  facts: FaceFacts;
  faces: number[];
  /** A plane that looks the way the walk goes. */
  looksOn: boolean;
  /** Where the walk comes in; where it goes on, null where the face closes. */
  from: Loop;
  to: Loop | null;
  wall?: BoreWall;
}

export interface Walk {
  through: Turned[];
  /** `mouth`: out of the hole; `bottom`: closed; `boss`: round something that stands in it. */
  end: 'mouth' | 'bottom' | 'boss';
  /** The ring where what is turned about the axis ends, or where it closes. */
  last: Loop;
  /** The faces beyond the last ring, the one that adjoins most of it first. */
  onto: number[];
  /** Whether that one adjoins a good part of it. */
  mostly: boolean;
}

/** Of the length of a ring: so much must adjoin one turned face. */
const NEARLY_ALL = 0.98;
/** Of the length of a ring, steps in it included. */
const GOOD_PART = 0.4;
const LONGEST_WALK = 24;

/**
 * Follows what is turned about an axis, face by face, from a ring outwards.
 * @param way unit, along the axis
 * @param walls by face
 */
export function walkAlong(
  part: HoleScope,
  line: AxisLine,
  ring: Ring,
  way: Vec3,
  walls: ReadonlyMap<number, BoreWall>,
): Walk {
  const through: Turned[] = [];
  let [last, of]: [Loop, ReadonlySet<number>] = [ring, ring.of];
  for (let n = 0; n < LONGEST_WALK; n++) {
    const onto = beyond(part, last, of);
    const next = turnedBeyond(part, line, last, onto, way, walls);
    const before = through.at(-1);
    if (!next || !goesOn(before, next))
      return { through, end: endOf(part, through, next, onto, way, last), last, ...facesOnto(onto) };
    through.push(next);
    if (!next.to)
      return {
        through,
        end: next.surface === 'plane' && next.looksOn ? 'mouth' : 'bottom',
        last: next.from,
        onto: next.faces,
        mostly: true,
      };
    last = next.to;
    of = new Set(next.faces);
  }
  return { through, end: 'mouth', last, onto: [], mostly: false };
}

function facesOnto(onto: ReadonlyMap<number, number>): Pick<Walk, 'onto' | 'mostly'> {
  const sorted = [...onto].sort((a, b) => b[1] - a[1]);
  const whole = sorted.reduce((sum, [, weight]) => sum + weight, 0);
  return { onto: sorted.map(([f]) => f), mostly: sorted.length > 0 && sorted[0][1] >= whole * GOOD_PART };
}

/**
 * Off a plane that looks the way of the walk only what is hollow belongs to the hole: else the plane is the
 * face it comes out of.
 */
function goesOn(before: Turned | undefined, next: Turned): boolean {
  // The outside of a ball, a pin or a taper is what the hole comes out of.
  if (next.surface === 'cylinder' || next.surface === 'sphere' || next.surface === 'cone')
    return next.facts.concave;
  return !(before?.surface === 'plane' && before.looksOn) || next.facts.concave;
}

function endOf(
  part: HoleScope,
  through: readonly Turned[],
  next: Turned | null,
  onto: ReadonlyMap<number, number>,
  way: Vec3,
  last: Loop,
): Walk['end'] {
  const before = through.at(-1);
  const plane = [...through].reverse().find((t) => t.surface === 'plane');
  if (before?.surface === 'plane' && before.looksOn) return 'mouth';
  if (next?.surface === 'cylinder' && plane && !plane.looksOn) return 'boss';
  if (!onto.size) return 'mouth';
  return facingAt(part, last, onto, way) >= 0 ? 'mouth' : 'bottom';
}

/** Points of each edge of a rim at which it is asked where the face beyond it looks. */
const RIM_LOOKS = 6;

/**
 * How much the faces beyond a rim look the way of the walk, at the rim itself: over the whole of a face that
 * goes round, as a bar's does, its normals would cancel.
 */
function facingAt(part: HoleScope, rim: Loop, onto: ReadonlyMap<number, number>, way: Vec3): number {
  let facing = 0;
  for (const e of rim.edges)
    for (const f of part.edges[e].faces) {
      if (!onto.has(f)) continue;
      const points = linePoints(part, e);
      const step = Math.max(1, Math.floor(points.length / RIM_LOOKS));
      const looked = points.filter((_, i) => i % step === 0);
      for (const p of looked)
        facing += (part.edges[e].length / looked.length) * dot(normalAt(part, f, p), way);
    }
  return facing;
}

/** The normal of a face where it is nearest to a point of its outline. */
function normalAt({ mesh, origin }: HoleScope, face: number, point: Vec3): Vec3 {
  const [x, y, z] = subtract(point, origin);
  let [nearest, least] = [-1, Infinity];
  for (let i = 3 * mesh.faceStart[face]; i < 3 * mesh.faceStart[face + 1]; i++) {
    const at = 3 * mesh.indices[i];
    const off =
      (mesh.positions[at] - x) ** 2 + (mesh.positions[at + 1] - y) ** 2 + (mesh.positions[at + 2] - z) ** 2;
    if (off < least) [nearest, least] = [mesh.indices[i], off];
  }
  return nearest < 0 ? [0, 0, 0] : pointAt(mesh.normals, nearest);
}

function turnedBeyond(
  part: HoleScope,
  line: AxisLine,
  ring: Loop,
  onto: ReadonlyMap<number, number>,
  way: Vec3,
  walls: ReadonlyMap<number, BoreWall>,
): Turned | null {
  const [heaviest] = [...onto].sort((a, b) => b[1] - a[1])[0] ?? [];
  if (heaviest === undefined) return null;
  const facts = part.faces[heaviest];
  if (!isTurnedAbout(facts, line, ring.radius)) return null;
  const wall = walls.get(heaviest);
  const faces =
    wall?.faces ??
    (facts.surface === 'plane' ? part.planes.get(heaviest) : undefined) ??
    joined(part, heaviest, (f) => sameTurned(facts, f, line, ring.radius));
  if (facts.surface === 'plane') part.planes.set(heaviest, faces);
  const own = new Set(faces);
  let [met, whole] = [0, 0];
  for (const [f, weight] of onto) {
    whole += weight;
    if (own.has(f)) met += weight;
  }
  if (met < whole * NEARLY_ALL) return null;
  const looksOn = facts.surface === 'plane' && dot(facts.axis!, way) > 0;
  const edges = new Set(ring.edges);
  const rings = (wall ? wall.rings.map((r) => inLine(r, wall, line)) : ringsOf(part, own, line)).filter(
    (l) => !l.edges.some((e) => edges.has(e)),
  );
  // Of a plane that looks on the next ring outwards, of one that looks back the next inwards.
  const candidates =
    facts.surface !== 'plane'
      ? rings
      : rings.filter((l) => (looksOn ? l.radius > ring.radius : l.radius < ring.radius));
  const to =
    candidates.sort((a, b) => Math.abs(a.radius - ring.radius) - Math.abs(b.radius - ring.radius))[0] ?? null;
  return {
    surface: facts.surface as Turned['surface'],
    facts,
    faces,
    looksOn,
    from: ring,
    to,
    ...(wall && { wall }),
  };
}

/** A ring as it is counted from another origin of the same axis. */
export function inLine<T extends Loop>(ring: T, from: AxisLine, to: AxisLine): T {
  const sense = dot(from.axis, to.axis);
  const shift = [0, 1, 2].reduce((sum, k) => sum + (from.origin[k] - to.origin[k]) * to.axis[k], 0);
  return { ...ring, height: ring.height * sense + shift };
}

/** @param size a radius of what is turned, mm; the tip of a cone has none of its own */
function isTurnedAbout(f: FaceFacts, line: AxisLine, size: number): boolean {
  if (!f.origin) return false;
  if (f.surface === 'sphere') return offAxis(f.origin, line) <= size * COAXIAL_RELATIVE;
  if (!f.axis || length(cross(f.axis, line.axis)) > COAXIAL_ANGLE) return false;
  if (f.surface === 'plane') return true;
  return (
    ['cylinder', 'cone', 'torus'].includes(f.surface) &&
    offAxis(f.origin, line) <= Math.max(size, f.radius!) * COAXIAL_RELATIVE
  );
}

function sameTurned(a: FaceFacts, b: FaceFacts, line: AxisLine, size: number): boolean {
  if (a.surface !== b.surface || a.concave !== b.concave || !isTurnedAbout(b, line, size)) return false;
  const near = (x = 0, y = 0) => Math.abs(x - y) <= Math.max(Math.abs(x), Math.abs(y)) * COAXIAL_RELATIVE;
  const along = (f: FaceFacts) => dot(f.origin!, line.axis);
  if (a.surface === 'plane')
    return (
      dot(a.axis!, b.axis!) > 0 &&
      Math.abs(along(a) - along(b)) <= Math.sqrt(Math.min(a.area, b.area)) * COAXIAL_RELATIVE
    );
  if (a.surface === 'cone') return near(a.semiAngle, b.semiAngle);
  return near(a.radius, b.radius) && near(a.minorRadius, b.minorRadius);
}
