import { CONE_LEAST, ROUNDING } from '../tolerances.ts';
import { solveLeastSquares, symmetricEigen, symmetricEigen3 } from '../math/eigen.ts';
import {
  addScaled,
  cross,
  distance,
  dot,
  frameOf,
  length,
  normalize,
  scale,
  subtract,
  toVec3,
  type Vec3,
} from '../math/vec3.ts';
import { centroidOf, fitCircle2, scatterOf } from './fit-circle.ts';
import { recognitionTolerance } from './recognise-curve.ts';

/** Points of a surface with the unit normals there (either side, but consistent). */
export interface SurfaceSamples {
  points: readonly Vec3[];
  normals: readonly Vec3[];
}

export interface RecognisedSurface {
  kind: 'plane' | 'cylinder' | 'cone' | 'sphere' | 'torus';
  origin: Vec3;
  axis: Vec3;
  radius?: number;
  minorRadius?: number;
  semiAngle?: number;
  /** Largest distance of a sample from the shape, mm. */
  deviation: number;
}

/**
 * Finds the plane, cylinder, cone, sphere or torus that a free-form surface really is, simplest first. The
 * axis comes from the normals (the normals of a cylinder are square to it, those of a cone lean equally, the
 * normal lines of a surface of revolution all meet it: Pottmann & Wallner, Computational Line Geometry, 2001,
 * ch. 4), the sizes from the points; what decides is the distance of every sample from the result.
 */
export function recogniseSurface(samples: SurfaceSamples): RecognisedSurface | null {
  const { points } = samples;
  if (points.length < 9) return null;
  const c = centroidOf(points);
  const size = 2 * Math.max(...points.map((p) => distance(p, c)));
  if (size === 0) return null;
  const tolerance = recognitionTolerance(size);
  for (const fit of [fitPlane, fitCylinder, fitSphere, fitCone, fitTorus]) {
    const found = fit(samples, c, size);
    if (found && found.deviation <= tolerance) return found;
  }
  return null;
}

/** Beyond this ratio of radius to size a curved face is not told from a plane with confidence. */
const FLATTEST_FACE = 1e4;

function fitPlane({ points }: SurfaceSamples, c: Vec3): RecognisedSurface {
  const axis = normalize(symmetricEigen3(scatterOf(points, c)).vectors[0]);
  return { kind: 'plane', origin: c, axis, deviation: largest(points, (p) => dot(subtract(p, c), axis)) };
}

function fitCylinder({ points, normals }: SurfaceSamples, c: Vec3, size: number): RecognisedSurface | null {
  const axis = normalize(symmetricEigen3(scatterOf(normals, [0, 0, 0])).vectors[0]);
  const { u, v } = frameOf(axis);
  const circle = fitCircle2(points.map((p) => [dot(subtract(p, c), u), dot(subtract(p, c), v)] as const));
  if (!circle || circle.radius > size * FLATTEST_FACE) return null;
  const origin = addScaled(addScaled(c, u, circle.x), v, circle.y);
  const deviation = largest(points, (p) => length(cross(subtract(p, origin), axis)) - circle.radius);
  return { kind: 'cylinder', origin, axis, radius: circle.radius, deviation };
}

function fitSphere({ points }: SurfaceSamples, c: Vec3, size: number): RecognisedSurface | null {
  const local = points.map((p) => subtract(p, c));
  const solution = solveLeastSquares(
    local.map((p) => [p[0], p[1], p[2], 1]),
    local.map((p) => dot(p, p)),
  );
  if (!solution) return null;
  const offset: Vec3 = [solution[0] / 2, solution[1] / 2, solution[2] / 2];
  const square = solution[3] + dot(offset, offset);
  if (!(square > 0) || square > (size * FLATTEST_FACE) ** 2) return null;
  const radius = Math.sqrt(square);
  const origin = addScaled(c, offset, 1);
  return {
    kind: 'sphere',
    origin,
    axis: [0, 0, 1],
    radius,
    deviation: largest(points, (p) => distance(p, origin) - radius),
  };
}

function fitCone({ points, normals }: SurfaceSamples, c: Vec3): RecognisedSurface | null {
  const meanNormal = centroidOf(normals);
  let axis = normalize(symmetricEigen3(scatterOf(normals, meanNormal)).vectors[0]);
  const solution = solveLeastSquares(
    normals.map((n) => [...n]),
    normals.map((n, i) => dot(n, subtract(points[i], c))),
  );
  if (!solution) return null;
  const apex = addScaled(c, toVec3(solution), 1);
  if (dot(subtract(c, apex), axis) < 0) axis = scale(axis, -1);
  const semiAngle = Math.asin(Math.min(1, Math.abs(dot(meanNormal, axis))));
  if (semiAngle < CONE_LEAST || semiAngle > Math.PI / 2 - CONE_LEAST) return null;
  const [sin, cos] = [Math.sin(semiAngle), Math.cos(semiAngle)];
  const deviation = largest(points, (p) => {
    const d = subtract(p, apex);
    const height = dot(d, axis);
    return length(addScaled(d, axis, -height)) * cos - height * sin;
  });
  const height = dot(subtract(c, apex), axis);
  return {
    kind: 'cone',
    origin: addScaled(apex, axis, height),
    axis,
    radius: height * Math.tan(semiAngle),
    semiAngle,
    deviation,
  };
}

function fitTorus({ points, normals }: SurfaceSamples, c: Vec3, size: number): RecognisedSurface | null {
  // Every normal line (n, m = p × n) meets the axis (a, a0): a·m + a0·n = 0. Scaled by the size, so that both
  // halves weigh alike.
  const m = Array.from({ length: 6 }, () => new Array<number>(6).fill(0));
  points.forEach((p, k) => {
    const row = [...cross(scale(subtract(p, c), 1 / size), normals[k]), ...normals[k]];
    for (let i = 0; i < 6; i++) for (let j = 0; j < 6; j++) m[i][j] += row[i] * row[j];
  });
  const line = symmetricEigen(m).vectors[0];
  const direction: Vec3 = [line[0], line[1], line[2]];
  const axisLength = length(direction);
  if (axisLength < ROUNDING) return null;
  const axis = normalize(direction);
  const moment = scale([line[3], line[4], line[5]], size / axisLength);
  const onAxis = addScaled(c, cross(axis, moment), 1);

  const profile = points.map((p) => {
    const d = subtract(p, onAxis);
    const height = dot(d, axis);
    return [length(addScaled(d, axis, -height)), height] as const;
  });
  const circle = fitCircle2(profile);
  if (!circle || circle.x <= 0 || circle.radius > size * FLATTEST_FACE) return null;
  const deviation = Math.max(
    ...profile.map(([r, h]) => Math.abs(Math.hypot(r - circle.x, h - circle.y) - circle.radius)),
  );
  return {
    kind: 'torus',
    origin: addScaled(onAxis, axis, circle.y),
    axis,
    radius: circle.x,
    minorRadius: circle.radius,
    deviation,
  };
}

const largest = (points: readonly Vec3[], off: (p: Vec3) => number): number =>
  points.reduce((worst, p) => Math.max(worst, Math.abs(off(p))), 0);
