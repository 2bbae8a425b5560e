import type { Point2 } from '../../math/point2.ts';
import { fitCircle2 } from '../../recognise/fit-circle.ts';
import { straighten, straightenChain } from './straighten.ts';
import type { PlaneCurve } from './plane-curves.ts';
import { ON_CIRCLE } from '../../tolerances.ts';

/**
 * rad. A sharper turn between two pieces of a mesh outline is a corner: arcs are meshed in steps
 * of 6° to 12° (`ARC_STEP`).
 */
const CORNER = (20 * Math.PI) / 180;
/**
 * A piece so much longer or shorter than the next belongs to another curve: a straight line
 * running into a rounding.
 */
const OTHER_LENGTH = 3;
/** Pieces an arc must have: fewer lie on a circle by chance. */
const ARC_PIECES = 4;

/**
 * The curves behind a mesh outline: straight lines, arcs and circles where the points
 * lie on one, else polylines.
 * @param tolerance how far the mesh may be from the surface, mm: said of the polylines
 */
export function curvesOfLoop(loop: readonly Point2[], tolerance: number): PlaneCurve[] {
  const points = straighten(loop);
  const n = points.length;
  const step = (i: number): Point2 => [
    points[(i + 1) % n][0] - points[i % n][0],
    points[(i + 1) % n][1] - points[i % n][1],
  ];
  const breaks = points.flatMap((_, i) => (isBreak(step((i + n - 1) % n), step(i)) ? [i] : []));
  if (!breaks.length) return [circleOf(points, tolerance)];
  return breaks.flatMap((from, k) => {
    const to = breaks[(k + 1) % breaks.length];
    const count = (to - from + n) % n || n;
    return curveOf(
      Array.from({ length: count + 1 }, (_, i) => points[(from + i) % n]),
      tolerance,
    );
  });
}

/** The curves behind an outline that does not close, end to end. */
export function curvesOfChain(chain: readonly Point2[], tolerance: number): PlaneCurve[] {
  const points = straightenChain(chain);
  const step = (i: number): Point2 => [points[i + 1][0] - points[i][0], points[i + 1][1] - points[i][1]];
  const breaks = points.flatMap((_, i) =>
    i === 0 || i === points.length - 1 || isBreak(step(i - 1), step(i)) ? [i] : [],
  );
  return breaks.slice(1).flatMap((to, k) => curveOf(points.slice(breaks[k], to + 1), tolerance));
}

function isBreak(a: Point2, b: Point2): boolean {
  const turn = Math.abs(Math.atan2(a[0] * b[1] - a[1] * b[0], a[0] * b[0] + a[1] * b[1]));
  const ratio = Math.hypot(...a) / Math.hypot(...b);
  return turn > CORNER || ratio > OTHER_LENGTH || ratio < 1 / OTHER_LENGTH;
}

/** Whether all points lie on a circle, and which. */
function onCircle(points: readonly Point2[]): { x: number; y: number; radius: number } | null {
  const circle = fitCircle2(points);
  return circle &&
    points.every(
      ([x, y]) =>
        Math.abs(Math.hypot(x - circle.x, y - circle.y) - circle.radius) <= ON_CIRCLE * circle.radius,
    )
    ? circle
    : null;
}

function circleOf(points: readonly Point2[], tolerance: number): PlaneCurve {
  const circle = onCircle(points);
  if (!circle) return { shape: 'polyline', points: [...points, points[0]], tolerance };
  const from = Math.atan2(points[0][1] - circle.y, points[0][0] - circle.x);
  return {
    shape: 'arc',
    centre: [circle.x, circle.y],
    radius: circle.radius,
    from,
    to: from + 2 * Math.PI * senseOf(points, circle),
  };
}

const senseOf = ([a, b]: readonly Point2[], c: { x: number; y: number }): number =>
  Math.sign((a[0] - c.x) * (b[1] - c.y) - (a[1] - c.y) * (b[0] - c.x)) || 1;

function curveOf(points: Point2[], tolerance: number): PlaneCurve[] {
  if (points.length < ARC_PIECES + 1)
    return points.slice(1).map((to, i) => ({ shape: 'line', from: points[i], to }));
  const circle = onCircle(points);
  if (!circle) return [{ shape: 'polyline', points, tolerance }];
  const angle = ([x, y]: Point2) => Math.atan2(y - circle.y, x - circle.x);
  const sense = senseOf(points, circle);
  const from = angle(points[0]);
  const run =
    ((((angle(points.at(-1)!) - from) * sense) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI) || 2 * Math.PI;
  return [
    { shape: 'arc', centre: [circle.x, circle.y], radius: circle.radius, from, to: from + run * sense },
  ];
}
