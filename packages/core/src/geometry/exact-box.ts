import { BOX_SNAP, FULL_TURN, ROUNDING, TINY } from '../tolerances.ts';
import { boxOfPoints, type Box3 } from '../math/box3.ts';
import { addScaled, cross, dot, normalize, pointAt, subtract, type Vec3 } from '../math/vec3.ts';
import type { PartGeometry } from './part-geometry.ts';

interface BoxInput extends Pick<PartGeometry, 'origin' | 'vertices' | 'faces' | 'edges' | 'chordTolerance'> {
  mesh: { positions: ArrayLike<number>; indices: ArrayLike<number>; faceStart: ArrayLike<number> };
  lines: { positions: ArrayLike<number>; start: ArrayLike<number> };
}

/**
 * The box of a part's faces. A mesh falls short of every bulge by up to its chord tolerance, so the extremes of
 * circles, spheres and tori are put in from their exact shape wherever the mesh shows that they belong to the part;
 * planes, cylinders and cones have theirs on their edges. Free-form shapes stay within the chord tolerance.
 */
export function exactBox(part: BoxInput): Box3 {
  const mesh = boxOfPoints(part.mesh.positions);
  const shifted: Box3 = { min: addScaled(mesh.min, part.origin, 1), max: addScaled(mesh.max, part.origin, 1) };
  const min = [...shifted.min];
  const max = [...shifted.max];
  const include = (point: Vec3) => {
    for (let k = 0; k < 3; k++) {
      if (point[k] < min[k]) min[k] = point[k];
      if (point[k] > max[k]) max[k] = point[k];
    }
  };
  for (let i = 0; i < part.vertices.length / 3; i++) include(pointAt(part.vertices, i));
  part.edges.forEach((edge, e) => {
    if (edge.curve === 'circle' && edge.centre) circleExtremes(part, e).forEach(include);
  });
  part.faces.forEach((face, f) => {
    if (face.surface === 'sphere' || face.surface === 'torus') bulgeExtremes(part, f).forEach(include);
  });
  return snapToVertices({ min: min as unknown as Vec3, max: max as unknown as Vec3 }, part.vertices);
}

/** Single-precision mesh points may stick out past a vertex known in double: then the vertex is the truth. */
function snapToVertices(box: Box3, vertices: Float64Array): Box3 {
  if (!vertices.length) return box;
  const exact = boxOfPoints(vertices);
  const size = Math.max(...subtract(box.max, box.min), TINY);
  const near = (a: number, b: number) => (Math.abs(a - b) < size * BOX_SNAP ? b : a);
  return {
    min: box.min.map((x, k) => near(x, exact.min[k])) as unknown as Vec3,
    max: box.max.map((x, k) => near(x, exact.max[k])) as unknown as Vec3,
  };
}

/** Points of a circular arc where it is furthest along ±X, ±Y, ±Z, when the arc reaches there. */
function circleExtremes(part: BoxInput, e: number): Vec3[] {
  const { centre, axis, radius, arcAngle } = part.edges[e] as { centre: Vec3; axis: Vec3; radius: number; arcAngle: number };
  const found: Vec3[] = [];
  for (let k = 0; k < 3; k++) {
    const unit: Vec3 = [k === 0 ? 1 : 0, k === 1 ? 1 : 0, k === 2 ? 1 : 0];
    const direction = addScaled(unit, axis, -dot(unit, axis));
    if (Math.hypot(...direction) < ROUNDING) continue;
    for (const sign of [1, -1]) {
      const point = addScaled(centre, normalize(direction), sign * radius);
      if (arcAngle > FULL_TURN || arcPasses(part, e, point, centre, axis)) found.push(point);
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
    if (dot(cross(a, target), axis) * side >= 0 && dot(cross(target, b), axis) * side >= 0 && dot(a, target) > 0) return true;
  }
  return false;
}

function bulgeExtremes(part: BoxInput, f: number): Vec3[] {
  const { surface, origin, axis, radius, minorRadius } = part.faces[f] as {
    surface: string;
    origin: Vec3;
    axis: Vec3;
    radius: number;
    minorRadius: number;
  };
  const { positions, indices, faceStart } = part.mesh;
  const corners: number[] = [];
  for (let i = 3 * faceStart[f]; i < 3 * faceStart[f + 1]; i++) corners.push(...addScaled(pointAt(positions, indices[i]), part.origin, 1));
  if (!corners.length) return [];
  const box = boxOfPoints(corners);
  const found: Vec3[] = [];
  for (let k = 0; k < 3; k++)
    for (const sign of [1, -1] as const) {
      const unit: Vec3 = [k === 0 ? sign : 0, k === 1 ? sign : 0, k === 2 ? sign : 0];
      const radial = normalize(addScaled(unit, axis, -dot(unit, axis)));
      const middle = surface === 'sphere' ? origin : addScaled(origin, radial, radius);
      const point = addScaled(middle, unit, surface === 'sphere' ? radius : minorRadius);
      const reached = sign > 0 ? box.max[k] : box.min[k];
      if (Math.abs(reached - point[k]) <= 2 * part.chordTolerance)
        found.push(at(k, point[k], addScaled(box.min, subtract(box.max, box.min), 0.5)));
    }
  return found;
}

const at = (k: number, value: number, middle: Vec3): Vec3 => [0, 1, 2].map((i) => (i === k ? value : middle[i])) as unknown as Vec3;
