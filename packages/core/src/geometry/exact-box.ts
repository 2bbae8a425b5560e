import { BOX_SNAP, LEVEL_TORUS, FULL_TURN, ROUNDING, TINY } from '../tolerances.ts';
import { boxOfPoints, uniteBoxes, type Box3 } from '../math/box3.ts';
import { distanceToSegment } from '../math/segment-distance.ts';
import {
  addScaled,
  cross,
  dot,
  frameOf,
  length,
  map3,
  normalize,
  pointAt,
  scale,
  subtract,
  toVec3,
  type Vec3,
} from '../math/vec3.ts';
import type { EdgeFacts, PartGeometry, SurfaceKind } from './part-geometry.ts';

interface BoxInput extends Pick<PartGeometry, 'origin' | 'vertices' | 'faces' | 'edges' | 'chordTolerance'> {
  mesh: { positions: ArrayLike<number>; indices: ArrayLike<number>; faceStart: ArrayLike<number> };
  lines: { positions: ArrayLike<number>; start: ArrayLike<number> };
}

/**
 * The box of a part's faces. A mesh falls short of every bulge by up to its chord tolerance, so the extremes
 * of circles, ellipses, spheres and tori are put in from their exact shape wherever the mesh shows that they
 * belong to the part;
 * planes, cylinders and cones have theirs on their edges. Free-form shapes stay within the chord tolerance,
 * as `boxWithin` tells.
 */
export const exactBox = (part: BoxInput): Box3 => knownBox(part).box;

/**
 * The same, and how much farther a part may reach, mm: where its mesh cannot tell whether a crown lies just
 * within a face or beyond its outline.
 */
export function knownBox(part: BoxInput): { box: Box3; within: number } {
  const drawn = boxOfDrawn(part);
  const shifted: Box3 = {
    min: addScaled(drawn.min, part.origin, 1),
    max: addScaled(drawn.max, part.origin, 1),
  };
  const min = [...shifted.min];
  const max = [...shifted.max];
  const doubtful: Vec3[] = [];
  const include = (point: Vec3) => {
    for (let k = 0; k < 3; k++) {
      if (point[k] < min[k]) min[k] = point[k];
      if (point[k] > max[k]) max[k] = point[k];
    }
  };
  for (let i = 0; i < part.vertices.length / 3; i++) include(pointAt(part.vertices, i));
  part.edges.forEach((edge, e) => {
    if ((edge.curve === 'circle' || edge.curve === 'ellipse') && edge.centre)
      roundExtremes(part, e).forEach(include);
  });
  part.faces.forEach((face, f) => {
    if (face.surface !== 'sphere' && face.surface !== 'torus') return;
    const { found, doubtful: near } = bulgeExtremes(part, f);
    found.forEach(include);
    doubtful.push(...near);
  });
  const box = snapToVertices({ min: toVec3(min), max: toVec3(max) }, part.vertices);
  const within = doubtful.reduce(
    (most, p) => p.reduce((m, x, k) => Math.max(m, x - box.max[k], box.min[k] - x), most),
    0,
  );
  return { box, within };
}

/** Single-precision mesh points may stick out past a vertex known in double: then the vertex is the truth. */
function snapToVertices(box: Box3, vertices: Float64Array): Box3 {
  if (!vertices.length) return box;
  const exact = boxOfPoints(vertices);
  const size = Math.max(...subtract(box.max, box.min), TINY);
  const near = (a: number, b: number) => (Math.abs(a - b) < size * BOX_SNAP ? b : a);
  return {
    min: map3(box.min, (x, k) => near(x, exact.min[k])),
    max: map3(box.max, (x, k) => near(x, exact.max[k])),
  };
}

/**
 * The box of the lines, and of the meshes of faces that have no extremes in closed form: those of others may
 * stick out of their outline by up to the chord, where that curves inwards. Of what has
 * no lines the whole mesh.
 */
function boxOfDrawn({ mesh: { positions, indices, faceStart }, faces, lines }: BoxInput): Box3 {
  const free = faces.flatMap((face, f) => {
    if (isElementary(face.surface) && face.accuracy.kind === 'exact') return [];
    const corners = Array.from({ length: 3 * (faceStart[f + 1] - faceStart[f]) }, (_, i) =>
      pointAt(positions, indices[3 * faceStart[f] + i]),
    );
    return corners.length ? [boxOfPoints(corners.flat())] : [];
  });
  const all = lines.positions.length ? [boxOfPoints(lines.positions), ...free] : [boxOfPoints(positions)];
  return all.reduce(uniteBoxes);
}

/**
 * mm: how much farther a part may reach than its `exactBox`: where anything of it is of no shape that has its
 * extremes in closed form.
 */
export function boxWithin(part: Pick<PartGeometry, 'faces' | 'edges' | 'chordTolerance'>): number {
  const known =
    part.faces.every((f) => isElementary(f.surface) && f.accuracy.kind === 'exact') &&
    part.edges.every((e) => e.seam || (e.accuracy.kind === 'exact' && isKnownCurve(e)));
  return known ? 0 : part.chordTolerance;
}

/** Whether a curve's extremes are known in closed form. */
export const isKnownCurve = (e: EdgeFacts): boolean =>
  e.curve === 'line' || e.curve === 'circle' || (e.curve === 'ellipse' && Boolean(e.major));

const isElementary = (surface: SurfaceKind): boolean =>
  ['plane', 'cylinder', 'cone', 'sphere', 'torus'].includes(surface);

/**
 * Points of an arc of a circle or an ellipse where it is furthest along ±X, ±Y, ±Z,
 * when the arc reaches there.
 */
function roundExtremes(part: BoxInput, e: number): Vec3[] {
  const { centre, axis, radius, arcAngle, curve, major, minorRadius } = part.edges[e] as EdgeFacts & {
    centre: Vec3;
    axis: Vec3;
    radius: number;
  };
  if (curve === 'ellipse' && !major) return [];
  const first = major ?? frameOf(axis).u;
  const [x, y] = [scale(first, radius), scale(cross(axis, first), minorRadius ?? radius)];
  const found: Vec3[] = [];
  for (let k = 0; k < 3; k++) {
    const reach = Math.hypot(x[k], y[k]);
    if (reach < ROUNDING * radius) continue;
    for (const sign of [1, -1]) {
      const point = addScaled(addScaled(centre, x, (sign * x[k]) / reach), y, (sign * y[k]) / reach);
      if ((arcAngle ?? 0) > FULL_TURN || arcPasses(part, e, point, centre, axis)) found.push(point);
    }
  }
  return found;
}

/** Whether a point of the full circle lies between two neighbouring points of the drawn arc. */
function arcPasses(part: BoxInput, e: number, point: Vec3, centre: Vec3, axis: Vec3): boolean {
  const { positions, start } = part.lines;
  const target = subtract(point, centre);
  for (let i = start[e]; i + 1 < start[e + 1]; i++) {
    const a = addScaled(subtract(pointAt(positions, i), centre), part.origin, 1);
    const b = addScaled(subtract(pointAt(positions, i + 1), centre), part.origin, 1);
    const side = Math.sign(dot(cross(a, b), axis)) || 1;
    if (
      dot(cross(a, target), axis) * side >= 0 &&
      dot(cross(target, b), axis) * side >= 0 &&
      dot(a, target) > 0
    )
      return true;
  }
  return false;
}

function bulgeExtremes(part: BoxInput, f: number): { found: Vec3[]; doubtful: Vec3[] } {
  const { surface, origin, axis, radius, minorRadius } = part.faces[f] as {
    surface: string;
    origin: Vec3;
    axis: Vec3;
    radius: number;
    minorRadius: number;
  };
  const { positions, indices, faceStart } = part.mesh;
  const triangles = { positions, indices, from: 3 * faceStart[f], to: 3 * faceStart[f + 1] };
  const found: Vec3[] = [];
  const doubtful: Vec3[] = [];
  for (let k = 0; k < 3; k++)
    for (const sign of [1, -1] as const) {
      const unit: Vec3 = [k === 0 ? sign : 0, k === 1 ? sign : 0, k === 2 ? sign : 0];
      const across = addScaled(unit, axis, -dot(unit, axis));
      // Where a torus lies level, or nearly, its crown is a circle: any point of it will
      // do, and each is looked at.
      const level = surface === 'torus' && length(across) < LEVEL_TORUS;
      const ways = [
        ...(length(across) > 0 || surface === 'sphere' ? [normalize(across)] : []),
        ...(level ? aroundAxis(axis) : []),
      ];
      for (const radial of ways) {
        const middle = surface === 'sphere' ? origin : addScaled(origin, radial, radius);
        // The farthest of the ball, or of the tube's circle there.
        const tangent = cross(axis, radial);
        const up = surface === 'sphere' ? unit : normalize(addScaled(unit, tangent, -dot(unit, tangent)));
        const point = addScaled(middle, up, surface === 'sphere' ? radius : minorRadius);
        // At an outline, which is drawn within the chord, a mesh cannot tell one side from the other.
        if (isAtOutline(part, f, point)) doubtful.push(point);
        else if (isCovered(triangles, subtract(point, part.origin), k, 2 * part.chordTolerance)) {
          found.push(point);
          break;
        }
      }
    }
  return { found, doubtful };
}

/** Whether a point is nearer to the drawn outline of a face than that may be off. */
function isAtOutline(
  { faces, edges, lines, origin, chordTolerance }: BoxInput,
  f: number,
  point: Vec3,
): boolean {
  const near = subtract(point, origin);
  return faces[f].edges.some((e) => {
    if (edges[e].seam) return false;
    for (let i = lines.start[e]; i + 1 < lines.start[e + 1]; i++) {
      if (
        distanceToSegment(near, pointAt(lines.positions, i), pointAt(lines.positions, i + 1)) <=
        2 * chordTolerance
      )
        return true;
    }
    return false;
  });
}

/** Directions looked at round a level crown: more than any arc of it that matters is short. */
const AROUND = 72;

function aroundAxis(axis: Vec3): Vec3[] {
  const { u, v } = frameOf(axis);
  return Array.from({ length: AROUND }, (_, i) => {
    const t = (2 * Math.PI * (i + 0.5)) / AROUND;
    return addScaled(scale(u, Math.cos(t)), v, Math.sin(t));
  });
}

interface Triangles {
  positions: ArrayLike<number>;
  indices: ArrayLike<number>;
  /** Corners of which triangles; all where absent. */
  from?: number;
  to?: number;
}

/**
 * Whether a triangle lies just beneath or above a point, seen along an axis, no farther away than so much. mm
 */
export function isCovered(
  { positions: p, indices, from = 0, to = indices.length }: Triangles,
  point: Vec3,
  along: number,
  within: number,
): boolean {
  const [a, b] = [(along + 1) % 3, (along + 2) % 3];
  const [x, y] = [point[a], point[b]];
  for (let t = from; t < to; t += 3) {
    const [i, j, k] = [3 * indices[t], 3 * indices[t + 1], 3 * indices[t + 2]];
    const twice =
      (p[j + a] - p[i + a]) * (p[k + b] - p[i + b]) - (p[j + b] - p[i + b]) * (p[k + a] - p[i + a]);
    if (twice === 0) continue;
    const s = ((x - p[i + a]) * (p[k + b] - p[i + b]) - (y - p[i + b]) * (p[k + a] - p[i + a])) / twice;
    const r = ((p[j + a] - p[i + a]) * (y - p[i + b]) - (p[j + b] - p[i + b]) * (x - p[i + a])) / twice;
    if (s < -ROUNDING || r < -ROUNDING || s + r > 1 + ROUNDING) continue;
    const height = p[i + along] + s * (p[j + along] - p[i + along]) + r * (p[k + along] - p[i + along]);
    if (Math.abs(height - point[along]) <= within) return true;
  }
  return false;
}
