import type { Accuracy } from '../geometry/accuracy.ts';
import type { EdgeFacts, FaceFacts, PartGeometry } from '../geometry/part-geometry.ts';
import {
  addScaled,
  cross,
  distance,
  dot,
  length,
  normalize,
  pointAt,
  scale,
  subtract,
  type Vec3,
} from '../math/vec3.ts';
import { footOnLine, footOnPlane } from '../measure/relations.ts';
import type { SnapKind } from '../references/snap.ts';
import { FULL_TURN, MEASURED_SAME, ROUNDING, SAME_POSITION } from '../tolerances.ts';

/** A point of a part, in the part's own frame, mm. */
export interface DerivedPoint {
  kind: SnapKind;
  /** Which of several of its kind: the number of a quadrant. */
  which?: number;
  at: Vec3;
  accuracy: Accuracy;
}

/** How far a point that was found on a mesh may be from the true one. */
const onMesh = ({ chordTolerance }: PartGeometry): Accuracy => ({
  kind: 'recognised',
  deviation: chordTolerance,
});

/**
 * The points that belong to an edge: its midpoint; the centre of a circle or an ellipse; a circle's
 * quadrants, the points where it runs along the two directions of its plane that lie nearest to the part's
 * axes. Those of lines and circles are exact.
 */
export function derivedPoints(part: PartGeometry, index: number): DerivedPoint[] {
  const edge = part.edges[index];
  const { accuracy } = edge;
  const centre: DerivedPoint[] = edge.centre ? [{ kind: 'centre', at: edge.centre, accuracy }] : [];
  if (edge.curve === 'circle' && edge.centre && edge.axis && edge.radius)
    return [...centre, ...pointsOfCircle(part, index, edge)];
  const middle = middleOf(part, index, edge);
  return middle ? [...centre, middle] : centre;
}

function pointsOfCircle(part: PartGeometry, index: number, edge: EdgeFacts): DerivedPoint[] {
  const { accuracy } = edge;
  const centre = edge.centre!;
  const { u, v } = acrossAxis(edge.axis!);
  const at = (angle: number): Vec3 =>
    addScaled(addScaled(centre, u, edge.radius! * Math.cos(angle)), v, edge.radius! * Math.sin(angle));
  const full = (edge.arcAngle ?? 0) > FULL_TURN;
  const arc = full ? null : arcOf(part, index, edge, u, v);
  const quadrants = [0, 1, 2, 3].flatMap((which): DerivedPoint[] =>
    full || (arc && isOnArc((which * Math.PI) / 2, arc))
      ? [{ kind: 'quadrant', which, at: at((which * Math.PI) / 2), accuracy }]
      : [],
  );
  return [
    ...(arc ? [{ kind: 'midpoint' as const, at: at(arc.from + arc.sweep / 2), accuracy }] : []),
    ...quadrants,
  ];
}

/** Two directions square to an axis; the first as near to one of the frame's axes as can be. */
function acrossAxis(axis: Vec3): { u: Vec3; v: Vec3 } {
  const k = [0, 1, 2].reduce(
    (least, i) => (Math.abs(axis[i]) < Math.abs(axis[least]) - ROUNDING ? i : least),
    0,
  );
  const along: Vec3 = [Number(k === 0), Number(k === 1), Number(k === 2)];
  const u = normalize(addScaled(along, axis, -dot(along, axis)));
  return { u, v: cross(axis, u) };
}

interface Arc {
  from: number;
  /** Signed. */
  sweep: number;
}

/** Where an arc begins, in the frame of its circle, and which way it runs. */
function arcOf(part: PartGeometry, index: number, edge: EdgeFacts, u: Vec3, v: Vec3): Arc | null {
  const points = pointsOf(part, index);
  if (points.length < 2 || !edge.arcAngle) return null;
  const first = edge.vertices.length ? pointAt(part.vertices, edge.vertices[0]) : points[0];
  // Its polyline and its vertices may run against each other.
  const turned = distance(points[0], first) > distance(points.at(-1)!, first);
  const next = turned ? points.at(-2)! : points[1];
  const angle = (p: Vec3) => Math.atan2(dot(subtract(p, edge.centre!), v), dot(subtract(p, edge.centre!), u));
  const step = angle(next) - angle(first);
  const way = Math.sin(step) < 0 ? -1 : 1;
  return { from: angle(first), sweep: way * edge.arcAngle };
}

function isOnArc(angle: number, { from, sweep }: Arc): boolean {
  const turn = 2 * Math.PI;
  const past = sweep < 0 ? from - angle : angle - from;
  const within = ((past % turn) + turn) % turn;
  return within <= Math.abs(sweep) + ROUNDING || within >= turn - ROUNDING;
}

/**
 * Of a line between its vertices, exact; of another curve half way along its
 * polyline, whose points lie on it.
 */
function middleOf(part: PartGeometry, index: number, edge: EdgeFacts): DerivedPoint | null {
  if (edge.curve === 'line' && edge.vertices.length > 1) {
    const [from, to] = [edge.vertices[0], edge.vertices.at(-1)!].map((i) => pointAt(part.vertices, i));
    return {
      kind: 'midpoint',
      at: scale([from[0] + to[0], from[1] + to[1], from[2] + to[2]], 0.5),
      accuracy: edge.accuracy,
    };
  }
  const points = pointsOf(part, index);
  if (points.length < 2 || distance(points[0], points.at(-1)!) <= SAME_POSITION) return null;
  const steps = points.slice(1).map((p, i) => distance(points[i], p));
  let left = steps.reduce((sum, s) => sum + s, 0) / 2;
  for (const [i, step] of steps.entries()) {
    if (left <= step && step > 0)
      return {
        kind: 'midpoint',
        at: addScaled(points[i], subtract(points[i + 1], points[i]), left / step),
        accuracy: onMesh(part),
      };
    left -= step;
  }
  return null;
}

/** Points of an edge's polyline, in the part's own frame. */
function pointsOf({ lines, origin }: PartGeometry, index: number): Vec3[] {
  const points: Vec3[] = [];
  for (let i = lines.start[index]; i < lines.start[index + 1]; i++)
    points.push(addScaled(pointAt(lines.positions, i), origin, 1));
  return points;
}

/** The point of an edge that is nearest to another: on lines and circles exact, else of its polyline. */
export function pointOnEdge(part: PartGeometry, index: number, near: Vec3): DerivedPoint {
  const edge = part.edges[index];
  const found = nearestOnPolyline(pointsOf(part, index), near) ?? near;
  if (edge.curve === 'line' && edge.axis && edge.vertices.length) {
    const origin = pointAt(part.vertices, edge.vertices[0]);
    return { kind: 'on edge', at: footOnLine(found, { origin, axis: edge.axis }), accuracy: edge.accuracy };
  }
  if (edge.curve === 'circle' && edge.centre && edge.axis && edge.radius) {
    const flat = footOnPlane(found, { origin: edge.centre, axis: edge.axis });
    const out = subtract(flat, edge.centre);
    if (length(out) > 0)
      return {
        kind: 'on edge',
        at: addScaled(edge.centre, out, edge.radius / length(out)),
        accuracy: edge.accuracy,
      };
  }
  return { kind: 'on edge', at: found, accuracy: onMesh(part) };
}

function nearestOnPolyline(points: readonly Vec3[], near: Vec3): Vec3 | null {
  let best: { at: Vec3; away: number } | null = points.length
    ? { at: points[0], away: distance(points[0], near) }
    : null;
  for (let i = 1; i < points.length; i++) {
    const along = subtract(points[i], points[i - 1]);
    const square = dot(along, along);
    const t = square > 0 ? Math.max(0, Math.min(1, dot(subtract(near, points[i - 1]), along) / square)) : 0;
    const at = addScaled(points[i - 1], along, t);
    const away = distance(at, near);
    if (away < best!.away) best = { at, away };
  }
  return best?.at ?? null;
}

/**
 * The point of a face that a point of its mesh stands for: exact on planes, cylinders,
 * spheres, cones and tori.
 */
export function pointOnFace(part: PartGeometry, index: number, near: Vec3): DerivedPoint {
  const at = onSurface(part.faces[index], near);
  // What is farther off than the mesh can be is not what was meant.
  return at && distance(at, near) <= MESH_PLAY * part.chordTolerance + SAME_POSITION
    ? { kind: 'on face', at, accuracy: part.faces[index].accuracy }
    : { kind: 'on face', at: near, accuracy: onMesh(part) };
}
/** Of the chord that was asked for. */
const MESH_PLAY = 4;

/** The foot of a point on a plane, cylinder, sphere, cone or torus; null of others. */
function onSurface(face: FaceFacts, near: Vec3): Vec3 | null {
  const { origin, axis, radius } = face;
  if (face.surface === 'plane' && origin && axis) return footOnPlane(near, { origin, axis });
  const towards = (from: Vec3, away: number): Vec3 | null => {
    const out = subtract(near, from);
    return length(out) > 0 ? addScaled(from, out, away / length(out)) : null;
  };
  if (face.surface === 'sphere' && origin && radius) return towards(origin, radius);
  if (!origin || !axis || radius === undefined) return null;
  const foot = footOnLine(near, { origin, axis });
  const out = subtract(near, foot);
  const away = length(out);
  if (away === 0) return null;
  if (face.surface === 'cylinder') return addScaled(foot, out, radius / away);
  if (face.surface === 'torus' && face.minorRadius)
    return towards(addScaled(origin, out, radius / away), face.minorRadius);
  if (face.surface !== 'cone' || face.semiAngle === undefined) return null;
  // Square to its generating line in the half plane of the axis and the point.
  const height = dot(subtract(near, origin), axis);
  const grows = Math.tan(face.semiAngle);
  const t = (height + (away - radius) * grows) / (1 + grows * grows);
  return addScaled(addScaled(origin, axis, t), out, (radius + t * grows) / away);
}

/** Steps of the search for a crossing. */
const MOST_STEPS = 200;
/** Of the distance before: two that still come nearer at a crossing of 3° do so by more each time. */
const STILL = 0.998;

/** One of two edges that may cross: the nearest point of it to another, in model space. */
export type OnCurve = (near: Vec3) => Vec3;

/**
 * Where two edges meet, near a place: by going from the one to the other and back, each time to the nearest
 * point, until they stand still. Null where they stay apart, or run along each other.
 */
export function crossingOf(a: OnCurve, b: OnCurve, near: Vec3): Vec3 | null {
  let p = a(near);
  let q = b(p);
  let apart = distance(p, q);
  for (let i = 0; i < MOST_STEPS && apart > 0; i++) {
    p = a(q);
    q = b(p);
    const now = distance(p, q);
    // They come no nearer to each other.
    if (now > apart * STILL) break;
    apart = now;
  }
  return distance(p, q) <= MEASURED_SAME ? scale([p[0] + q[0], p[1] + q[1], p[2] + q[2]], 0.5) : null;
}
