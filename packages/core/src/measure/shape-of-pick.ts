import type { PickedPart } from '../facts/describe-pick.ts';
import type { EdgeFacts, FaceFacts } from '../geometry/part-geometry.ts';
import { transformDirection, transformPoint } from '../math/mat4.ts';
import { addScaled, dot, normalize, pointAt, scale, subtract, type Vec3 } from '../math/vec3.ts';
import type { PickKind } from '../picking/pick-scene.ts';
import type { MeasuredShape } from './measured-shape.ts';

/** What a picked thing of a component is for measuring, in model space. Of a hole's faces the hole. */
export function shapeOfPick(kind: PickKind, index: number, part: PickedPart): MeasuredShape {
  const { geometry, placement } = part;
  if (kind === 'vertex')
    return {
      kind: 'point',
      at: transformPoint(placement, pointAt(geometry.vertices, index)),
      accuracy: { kind: 'exact' },
      span: 0,
    };
  if (kind === 'edge') return shapeOfEdge(geometry.edges[index], part);
  if (kind === 'face') return shapeOfFace(index, part);
  return { kind: 'solid', accuracy: { kind: 'exact' }, span: 0 };
}

function shapeOfEdge(edge: EdgeFacts, { geometry, placement }: PickedPart): MeasuredShape {
  const { accuracy, length } = edge;
  const direction = (d: Vec3) => normalize(transformDirection(placement, d));
  const common = { accuracy, span: length };
  if (edge.curve === 'line' && edge.axis && edge.vertices.length) {
    const [from, to] = [edge.vertices[0], edge.vertices.at(-1)!].map((v) =>
      transformPoint(placement, pointAt(geometry.vertices, v)),
    );
    return {
      kind: 'line',
      origin: scale([from[0] + to[0], from[1] + to[1], from[2] + to[2]], 0.5),
      axis: direction(edge.axis),
      ends: [from, to],
      ...common,
    };
  }
  if ((edge.curve === 'circle' || edge.curve === 'ellipse') && edge.centre && edge.axis)
    return {
      kind: 'circle',
      origin: transformPoint(placement, edge.centre),
      axis: direction(edge.axis),
      radius: edge.curve === 'circle' ? edge.radius! : null,
      accuracy,
      span: 2 * edge.radius!,
    };
  return { kind: 'free', ...common };
}

function shapeOfFace(index: number, part: PickedPart): MeasuredShape {
  const { geometry, placement } = part;
  const face = geometry.faces[index];
  const point = (p: Vec3) => transformPoint(placement, p);
  const direction = (d: Vec3) => normalize(transformDirection(placement, d));
  const span = Math.sqrt(face.area);
  const { accuracy } = face;
  if (face.hole !== undefined) {
    const hole = geometry.holes[face.hole];
    const common = { origin: point(hole.start), axis: direction(hole.axis), from: 0, to: hole.depth };
    return {
      kind: 'turned',
      what: 'hole',
      radius: hole.diameter / 2,
      hollow: true,
      accuracy: hole.accuracy,
      span: hole.depth,
      ...common,
    };
  }
  const middle = middleOfFace(index, geometry);
  if (face.surface === 'plane' && face.axis)
    return {
      kind: 'plane',
      // On the plane in double precision, where the face is.
      origin: point(addScaled(middle, face.axis, -dot(subtract(middle, face.origin!), face.axis))),
      axis: direction(face.axis),
      bounds: true,
      ...datumOf(face, part),
      accuracy,
      span,
    };
  if (face.surface === 'sphere')
    return { kind: 'sphere', origin: point(face.origin!), radius: face.radius!, accuracy, span };
  if (
    (face.surface === 'cylinder' || face.surface === 'cone' || face.surface === 'torus') &&
    face.axis &&
    face.origin
  ) {
    const [low, high] = heightsOf(index, face, geometry);
    const base = addScaled(face.origin, face.axis, (low + high) / 2);
    return {
      kind: 'turned',
      what: face.surface,
      origin: point(base),
      axis: direction(face.axis),
      radius: face.surface === 'cylinder' ? face.radius! : null,
      hollow: face.concave,
      from: (low - high) / 2,
      to: (high - low) / 2,
      accuracy,
      span: high - low || span,
    };
  }
  return { kind: 'free', accuracy, span };
}

/**
 * Where axes of a planar face begin, exactly: at an end of its longest straight edge, which X then runs
 * along, else in the centre of its largest circle.
 */
function datumOf(
  face: FaceFacts,
  { geometry, placement }: PickedPart,
): { datum?: { at: Vec3; along: Vec3 | null } } {
  const edges = face.edges.map((e) => geometry.edges[e]);
  const longest = edges
    .filter((e) => e.curve === 'line' && e.vertices.length > 1)
    .sort((a, b) => b.length - a.length)[0];
  if (longest) {
    const [from, to] = [longest.vertices[0], longest.vertices.at(-1)!].map((v) =>
      transformPoint(placement, pointAt(geometry.vertices, v)),
    );
    return { datum: { at: from, along: normalize(subtract(to, from)) } };
  }
  const largest = edges
    .filter((e) => e.curve === 'circle' && e.centre)
    .sort((a, b) => b.radius! - a.radius!)[0];
  return largest ? { datum: { at: transformPoint(placement, largest.centre!), along: null } } : {};
}

function* cornersOf(index: number, { mesh, origin }: PickedPart['geometry']): Generator<Vec3> {
  for (let i = 3 * mesh.faceStart[index]; i < 3 * mesh.faceStart[index + 1]; i++)
    yield addScaled(pointAt(mesh.positions, mesh.indices[i]), origin, 1);
}

function middleOfFace(index: number, geometry: PickedPart['geometry']): Vec3 {
  const sum = [0, 0, 0];
  let count = 0;
  for (const p of cornersOf(index, geometry)) {
    for (let k = 0; k < 3; k++) sum[k] += p[k];
    count++;
  }
  return count
    ? [sum[0] / count, sum[1] / count, sum[2] / count]
    : (geometry.faces[index].origin ?? [0, 0, 0]);
}

/**
 * Heights between which a turned face lies along its axis: from its circles where it has
 * them, else from its mesh.
 */
function heightsOf(index: number, face: FaceFacts, geometry: PickedPart['geometry']): [number, number] {
  const height = (p: Vec3) => dot(subtract(p, face.origin!), face.axis!);
  let [low, high] = [Infinity, -Infinity];
  const rims = face.edges
    .map((e) => geometry.edges[e])
    .filter((e) => !e.seam && e.curve === 'circle' && e.centre);
  const points = rims.length > 1 ? rims.map((e) => e.centre!) : cornersOf(index, geometry);
  for (const p of points) {
    low = Math.min(low, height(p));
    high = Math.max(high, height(p));
  }
  return low <= high ? [low, high] : [0, 0];
}
