import { RECOGNITION_MAX, RECOGNITION_MIN, RECOGNITION_RELATIVE } from '../tolerances.ts';
import { distance, type Vec3 } from '../math/vec3.ts';
import { fitCircle, fitLine } from './fit-circle.ts';

export type RecognisedCurve =
  | { kind: 'line'; axis: Vec3; deviation: number }
  | { kind: 'circle'; centre: Vec3; axis: Vec3; radius: number; deviation: number };

/** The largest deviation accepted for a shape of the given size, mm. */
export const recognitionTolerance = (size: number): number =>
  Math.min(RECOGNITION_MAX, Math.max(RECOGNITION_MIN, size * RECOGNITION_RELATIVE));

/** Above this ratio of radius to arc a "circle" is a straight line within any workshop's means. */
const FLATTEST_ARC = 1e4;

/**
 * Finds the line or circle that a free-form curve really is.
 * @param points at least five points on the curve, in order, mm
 * @returns null when neither fits every point within the recognition tolerance
 */
export function recogniseCurve(points: readonly Vec3[]): RecognisedCurve | null {
  const size = points.reduce((sum, p, i) => (i ? sum + distance(p, points[i - 1]) : 0), 0);
  if (points.length < 5 || size === 0) return null;
  const tolerance = recognitionTolerance(size);
  const line = fitLine(points);
  if (line.deviation <= tolerance) return { kind: 'line', axis: line.axis, deviation: line.deviation };
  const circle = fitCircle(points);
  if (!circle || circle.deviation > tolerance || circle.radius > size * FLATTEST_ARC) return null;
  return { kind: 'circle', ...circle };
}
