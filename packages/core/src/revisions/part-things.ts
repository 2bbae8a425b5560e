import type { EdgeFacts, FaceFacts, PartGeometry } from '../geometry/part-geometry.ts';
import {
  add,
  addScaled,
  cross,
  distance,
  dot,
  length,
  pointAt,
  scale,
  subtract,
  type Vec3,
} from '../math/vec3.ts';
import { boxCentre, transformBox, type Box3 } from '../math/box3.ts';
import { transformDirection, transformPoint, type Mat4 } from '../math/mat4.ts';
import { SAME_AFTER_MOTION, SAME_POSITION, SAME_SIZE, TINY } from '../tolerances.ts';

/* The faces and edges of a part as they are compared between revisions; mm, in one frame. */

export interface ThingFace {
  facts: FaceFacts;
  /** Middle of its surface, as the mesh knows it. */
  middle: Vec3;
  /** Sum of its normals by area over its area: of a plane its normal, of a whole cylinder nothing. */
  facing: Vec3;
  box: Box3;
  /** The faces across its edges. */
  beside: readonly number[];
}

export interface ThingEdge {
  facts: EdgeFacts;
  /** Half-way along it. */
  middle: Vec3;
  ends: readonly Vec3[];
}

export interface PartThings {
  faces: readonly ThingFace[];
  edges: readonly ThingEdge[];
  vertices: readonly Vec3[];
  bodies: readonly (readonly number[])[];
  /** By vertex, the faces that meet there, ascending. */
  atVertex: readonly (readonly number[])[];
  /** mm: how far its mesh may be off. */
  chord: number;
}

export function thingsOf(part: PartGeometry): PartThings {
  const atVertex = Array.from({ length: part.vertices.length / 3 }, () => new Set<number>());
  for (const { vertices, faces } of part.edges)
    for (const v of vertices) for (const f of faces) atVertex[v].add(f);
  return {
    faces: part.faces.map((facts, i) => faceThing(part, facts, i)),
    edges: part.edges.map((facts, i) => ({
      facts,
      middle: halfWay(part, i),
      ends: facts.vertices.map((v) => pointAt(part.vertices, v)),
    })),
    vertices: Array.from({ length: part.vertices.length / 3 }, (_, v) => pointAt(part.vertices, v)),
    bodies: part.bodies.map(({ faces }) => faces),
    atVertex: atVertex.map((faces) => [...faces].sort((a, b) => a - b)),
    chord: part.chordTolerance,
  };
}

function faceThing(part: PartGeometry, facts: FaceFacts, face: number): ThingFace {
  const { positions, indices, faceStart } = part.mesh;
  const at = (i: number): Vec3 => add(pointAt(positions, indices[i]), part.origin);
  let [area, middle, facing]: [number, Vec3, Vec3] = [0, [0, 0, 0], [0, 0, 0]];
  const [min, max] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (let t = faceStart[face]; t < faceStart[face + 1]; t++) {
    const [a, b, c] = [at(3 * t), at(3 * t + 1), at(3 * t + 2)];
    const normal = cross(subtract(b, a), subtract(c, a));
    const size = length(normal);
    area += size;
    middle = addScaled(middle, add(add(a, b), c), size / 3);
    facing = add(facing, normal);
    for (let k = 0; k < 3; k++) {
      min[k] = Math.min(min[k], a[k], b[k], c[k]);
      max[k] = Math.max(max[k], a[k], b[k], c[k]);
    }
  }
  const beside = new Set(facts.edges.flatMap((e) => part.edges[e].faces));
  beside.delete(face);
  const by = 1 / Math.max(area, TINY);
  return {
    facts,
    middle: scale(middle, by),
    facing: scale(facing, by),
    box: { min, max } as unknown as Box3,
    beside: [...beside],
  };
}

function halfWay(part: PartGeometry, edge: number): Vec3 {
  const { start, positions } = part.lines;
  const points = Array.from({ length: start[edge + 1] - start[edge] }, (_, i) =>
    add(pointAt(positions, start[edge] + i), part.origin),
  );
  const whole = points.slice(1).reduce((sum, p, i) => sum + distance(p, points[i]), 0);
  let left = whole / 2;
  for (let i = 1; i < points.length; i++) {
    const step = distance(points[i - 1], points[i]);
    if (step >= left && step > 0)
      return addScaled(points[i - 1], subtract(points[i], points[i - 1]), left / step);
    left -= step;
  }
  return points[0] ?? [0, 0, 0];
}

/** The same things after a motion. */
export function movedThings(things: PartThings, motion: Mat4): PartThings {
  const point = (p: Vec3) => transformPoint(motion, p);
  const direction = (d: Vec3) => transformDirection(motion, d);
  return {
    ...things,
    faces: things.faces.map(({ facts, ...face }) => ({
      ...face,
      facts: {
        ...facts,
        ...(facts.origin && { origin: point(facts.origin) }),
        ...(facts.axis && { axis: direction(facts.axis) }),
      },
      middle: point(face.middle),
      facing: direction(face.facing),
      box: transformBox(motion, face.box),
    })),
    edges: things.edges.map(({ facts, middle, ends }) => ({
      facts: {
        ...facts,
        ...(facts.centre && { centre: point(facts.centre) }),
        ...(facts.axis && { axis: direction(facts.axis) }),
      },
      middle: point(middle),
      ends: ends.map(point),
    })),
    vertices: things.vertices.map(point),
  };
}

const ratioOff = (a: number, b: number): number => Math.abs(a - b) / Math.max(Math.abs(a), Math.abs(b), TINY);
const sameNumber = (a: number | undefined, b: number | undefined): boolean =>
  a === undefined || b === undefined ? a === b : ratioOff(a, b) <= SAME_SIZE || Math.abs(a - b) <= SAME_SIZE;
const parallel = (a: Vec3, b: Vec3): boolean => length(cross(a, b)) <= SAME_AFTER_MOTION;

/**
 * Whether two faces lie on one surface, from the same side: what was drawn with one dimension less or more.
 * Free forms never do, for it cannot be told.
 */
export function onOneSurface({ facts: a }: ThingFace, { facts: b }: ThingFace): boolean {
  if (a.surface !== b.surface || a.concave !== b.concave || !a.origin || !b.origin) return false;
  if (!sameNumber(a.radius, b.radius) && a.surface !== 'cone') return false;
  if (!sameNumber(a.minorRadius, b.minorRadius) || !sameNumber(a.semiAngle, b.semiAngle)) return false;
  const off = subtract(b.origin, a.origin);
  switch (a.surface) {
    case 'plane':
      return (
        parallel(a.axis!, b.axis!) &&
        dot(a.axis!, b.axis!) > 0 &&
        Math.abs(dot(off, a.axis!)) <= SAME_POSITION
      );
    case 'cylinder':
      return parallel(a.axis!, b.axis!) && length(cross(off, a.axis!)) <= SAME_POSITION;
    case 'cone':
      return parallel(a.axis!, b.axis!) && length(cross(off, a.axis!)) <= SAME_POSITION && sameCone(a, b);
    case 'sphere':
      return length(off) <= SAME_POSITION;
    case 'torus':
      return parallel(a.axis!, b.axis!) && length(off) <= SAME_POSITION;
    default:
      return false;
  }
}

/**
 * Apexes in one place; the radius is given at the origin, which may lie anywhere along
 * the axis, on either side.
 */
function sameCone(a: FaceFacts, b: FaceFacts): boolean {
  const apexes = (f: FaceFacts): Vec3[] =>
    [1, -1].map((side) =>
      addScaled(f.origin!, f.axis!, (side * (f.radius ?? 0)) / Math.tan(f.semiAngle || TINY)),
    );
  return apexes(a).some((p) => apexes(b).some((q) => distance(p, q) <= SAME_POSITION));
}

/**
 * How far a surface lies from another of its kind: of planes along the normal, of what
 * is turned across the axis.
 */
export function surfaceShift({ facts: a }: ThingFace, { facts: b }: ThingFace): Vec3 {
  if (!a.origin || !b.origin) return [0, 0, 0];
  const off = subtract(b.origin, a.origin);
  if (!b.axis || b.surface === 'torus') return off;
  const along = scale(b.axis, dot(off, b.axis));
  return b.surface === 'plane' ? along : subtract(off, along);
}

/**
 * Whether a face is as it was: kind, size, surface, place and side. @param chord mm, by which the middles of
 * curved faces may differ
 */
export function sameFace(a: ThingFace, b: ThingFace, chord: number): boolean {
  if (
    a.facts.surface !== b.facts.surface ||
    a.facts.concave !== b.facts.concave ||
    !sameNumber(a.facts.area, b.facts.area)
  )
    return false;
  const known =
    a.facts.origin !== undefined && a.facts.surface !== 'extrusion' && a.facts.surface !== 'revolution';
  if (known && !onOneSurface(a, b)) return false;
  const extent = Math.sqrt(Math.max(a.facts.area, TINY));
  // Of a free form nothing but its middle tells where it is, so that has to be as good as
  // single precision allows.
  const within =
    a.facts.surface === 'plane' || !known
      ? Math.max(SAME_POSITION, SAME_AFTER_MOTION * extent)
      : SAME_POSITION + chord;
  return distance(a.middle, b.middle) <= within && length(subtract(a.facing, b.facing)) <= 0.01;
}

export function sameEdge(a: ThingEdge, b: ThingEdge, chord: number): boolean {
  const [f, g] = [a.facts, b.facts];
  if (f.curve !== g.curve || !sameNumber(f.length, g.length) || !sameNumber(f.radius, g.radius)) return false;
  if (f.centre && g.centre && distance(f.centre, g.centre) > SAME_POSITION) return false;
  if (f.axis && g.axis && !parallel(f.axis, g.axis)) return false;
  const [p, q] = [a.ends, b.ends];
  const near = (i: number, j: number) => distance(p[i], q[j]) <= SAME_POSITION;
  // What closes on itself begins anywhere.
  const closed =
    p.length < 2 ||
    q.length < 2 ||
    distance(p[0], p[1]) <= SAME_POSITION ||
    distance(q[0], q[1]) <= SAME_POSITION;
  if (closed)
    return f.centre !== undefined
      ? f.arcAngle === g.arcAngle
      : distance(a.middle, b.middle) <= SAME_POSITION + chord;
  if (!((near(0, 0) && near(1, 1)) || (near(0, 1) && near(1, 0)))) return false;
  return f.curve === 'line' || distance(a.middle, b.middle) <= SAME_POSITION + chord;
}

/** Share of the smaller of two boxes, along each axis, in which both lie; 0 where they do not touch. */
export function boxesShare(a: Box3, b: Box3): number {
  const share = [0, 1, 2].map((k) => {
    const room = Math.min(a.max[k], b.max[k]) - Math.max(a.min[k], b.min[k]);
    const least = Math.min(a.max[k] - a.min[k], b.max[k] - b.min[k]);
    return least <= SAME_POSITION ? (room >= -SAME_POSITION ? 1 : 0) : Math.max(0, room / least);
  });
  return Math.min(...share);
}

/** Whether one box lies in another. */
export const boxWithin = (inner: Box3, outer: Box3): boolean =>
  [0, 1, 2].every(
    (k) => inner.min[k] >= outer.min[k] - SAME_POSITION && inner.max[k] <= outer.max[k] + SAME_POSITION,
  );

/** How large a face is, as a length: what a shift of it is compared with. */
export const extentOf = ({ facts }: ThingFace): number =>
  facts.minorRadius ?? facts.radius ?? Math.sqrt(Math.max(facts.area, TINY));

/**
 * How different two faces of one kind are: their shift over their extent, and by what
 * factors area and radius differ.
 */
export function faceDifference(a: ThingFace, b: ThingFace): number {
  const factor = (x: number | undefined, y: number | undefined) => (x && y ? Math.abs(Math.log(x / y)) : 0);
  const shift = distance(boxCentre(a.box), boxCentre(b.box)) / Math.max(extentOf(a), TINY);
  return shift + factor(a.facts.area, b.facts.area) + factor(a.facts.radius, b.facts.radius);
}
