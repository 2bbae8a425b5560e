import type { Point2 } from '../../math/point2.ts';
import { crossingOf } from '../../math/plane.ts';
import { RUN_END } from '../../tolerances.ts';
import { finish, type SectionProperties } from '../section-properties.ts';

/** A piece of a cut's outline, run through from its start to its end. mm and rad in the plane's own axes. */
export type PlaneCurve =
  | { shape: 'line'; from: Point2; to: Point2 }
  /** Anticlockwise when `to` is larger than `from`. */
  | { shape: 'arc'; centre: Point2; radius: number; from: number; to: number }
  /** centre + cos t · major + sin t · ratio · (major turned by 90°). */
  | { shape: 'ellipse'; centre: Point2; major: Point2; ratio: number; from: number; to: number }
  /** Stands for another curve, nowhere further from it than `tolerance`. */
  | { shape: 'polyline'; points: Point2[]; tolerance: number };

/** Gauss–Legendre, five points on [−1, 1] (Abramowitz & Stegun, table 25.4): exact to degree nine. */
const GAUSS = [
  [0, 128 / 225],
  ...[
    [0.5384693101056831, 0.47862867049936647],
    [0.906179845938664, 0.23692688505618908],
  ].flatMap(([x, w]) => [
    [x, w],
    [-x, w],
  ]),
] as const;
/**
 * rad. Round curves are integrated in pieces no longer than this: then five points are
 * good to the last digits.
 */
const PIECE = Math.PI / 16;

const isRound = (c: PlaneCurve) => c.shape === 'arc' || c.shape === 'ellipse';

function pointOf(c: PlaneCurve & { shape: 'arc' | 'ellipse' }, t: number): Point2 {
  const [cos, sin] = [Math.cos(t), Math.sin(t)];
  if (c.shape === 'arc') return [c.centre[0] + c.radius * cos, c.centre[1] + c.radius * sin];
  const [mx, my] = c.major;
  return [c.centre[0] + cos * mx - sin * c.ratio * my, c.centre[1] + cos * my + sin * c.ratio * mx];
}

function slopeOf(c: PlaneCurve & { shape: 'arc' | 'ellipse' }, t: number): Point2 {
  const [cos, sin] = [Math.cos(t), Math.sin(t)];
  if (c.shape === 'arc') return [-c.radius * sin, c.radius * cos];
  const [mx, my] = c.major;
  return [-sin * mx - cos * c.ratio * my, -sin * my + cos * c.ratio * mx];
}

export const startOf = (c: PlaneCurve): Point2 =>
  c.shape === 'line' ? c.from : c.shape === 'polyline' ? c.points[0] : pointOf(c, c.from);
export const endOf = (c: PlaneCurve): Point2 =>
  c.shape === 'line' ? c.to : c.shape === 'polyline' ? c.points.at(-1)! : pointOf(c, c.to);

export const reverseCurve = (c: PlaneCurve): PlaneCurve =>
  c.shape === 'polyline'
    ? { ...c, points: [...c.points].reverse() }
    : ({ ...c, from: c.to, to: c.from } as PlaneCurve);

/** Points along a curve, both ends included; round ones in steps of no more than the given angle (rad). */
export function pointsAlong(c: PlaneCurve, step = Math.PI / 24): Point2[] {
  if (c.shape === 'line') return [c.from, c.to];
  if (c.shape === 'polyline') return c.points;
  const n = Math.max(2, Math.ceil(Math.abs(c.to - c.from) / step));
  return Array.from({ length: n + 1 }, (_, i) => pointOf(c, c.from + ((c.to - c.from) * i) / n));
}

/**
 * The point of a curve at a share of its run, 0 at its start and 1 at its end; of a polyline by its pieces.
 */
export function pointAtShare(c: PlaneCurve, share: number): Point2 {
  if (c.shape !== 'line' && c.shape !== 'polyline') return pointOf(c, c.from + (c.to - c.from) * share);
  const points = pointsAlong(c);
  const at = Math.min(share * (points.length - 1), points.length - 1);
  const i = Math.min(Math.floor(at), points.length - 2);
  const [p, q] = [points[i], points[i + 1]];
  return [p[0] + (q[0] - p[0]) * (at - i), p[1] + (q[1] - p[1]) * (at - i)];
}

/** A curve in pieces along each of which y only rises or only falls. */
export function monotonePieces(c: PlaneCurve): PlaneCurve[] {
  if (c.shape === 'line') return [c];
  if (c.shape === 'polyline')
    return c.points.slice(1).map((to, i) => ({ shape: 'line', from: c.points[i], to }));
  // y turns where its slope is 0: at a quarter turn of an arc, and where tan t = ratio
  // · mx / my of an ellipse.
  const turn = c.shape === 'arc' ? Math.PI / 2 : Math.atan2(c.ratio * c.major[0], c.major[1]);
  const [low, high] = [Math.min(c.from, c.to), Math.max(c.from, c.to)];
  const stops: number[] = [];
  for (let t = turn + Math.ceil((low - turn) / Math.PI) * Math.PI; t < high; t += Math.PI)
    if (t > low) stops.push(t);
  if (c.from > c.to) stops.reverse();
  const ends = [c.from, ...stops, c.to];
  return ends.slice(1).map((to, i) => ({ ...c, from: ends[i], to }));
}

/** mm */
export const curveLength = (c: PlaneCurve): number => {
  let sum = 0;
  eachSample([c], [0, 0], (_x, _y, dx, dy, w) => (sum += w * Math.hypot(dx, dy)));
  return sum;
};

/**
 * Visits points of all curves relative to a base, with the slope and weight that integrate over the curve.
 */
function eachSample(
  curves: readonly PlaneCurve[],
  base: Point2,
  visit: (x: number, y: number, dx: number, dy: number, weight: number) => void,
): void {
  for (const c of curves) {
    if (isRound(c)) {
      const round = c as PlaneCurve & { shape: 'arc' | 'ellipse' };
      const pieces = Math.max(1, Math.ceil(Math.abs(round.to - round.from) / PIECE));
      const half = (round.to - round.from) / pieces / 2;
      for (let i = 0; i < pieces; i++)
        for (const [x, w] of GAUSS) {
          const t = round.from + half * (2 * i + 1 + x);
          const [p, d] = [pointOf(round, t), slopeOf(round, t)];
          visit(p[0] - base[0], p[1] - base[1], d[0] * half, d[1] * half, w);
        }
      continue;
    }
    const points = pointsAlong(c);
    for (let i = 0; i + 1 < points.length; i++) {
      const [a, b] = [points[i], points[i + 1]];
      const [dx, dy] = [(b[0] - a[0]) / 2, (b[1] - a[1]) / 2];
      for (const [x, w] of GAUSS)
        visit(a[0] - base[0] + dx * (1 + x), a[1] - base[1] + dy * (1 + x), dx, dy, w);
    }
  }
}

/**
 * Figures of a region bounded by curves, outer loops anticlockwise and holes clockwise, by Green's theorem
 * with each curve integrated as what it is. Exact to rounding for lines, arcs and ellipses.
 * @returns null when the loops enclose no area
 */
export function propertiesOfCurves(loops: readonly (readonly PlaneCurve[])[]): SectionProperties | null {
  const first = loops[0]?.[0];
  if (!first) return null;
  const base = startOf(first);
  let [area, sx, sy, xx, yy, xy, perimeter] = [0, 0, 0, 0, 0, 0, 0];
  eachSample(loops.flat(), base, (x, y, dx, dy, w) => {
    area += (w * (x * dy - y * dx)) / 2;
    sx += (w * x * x * dy) / 2;
    sy -= (w * y * y * dx) / 2;
    xx += (w * x * x * x * dy) / 3;
    yy -= (w * y * y * y * dx) / 3;
    xy += (w * x * x * y * dy) / 2;
    perimeter += w * Math.hypot(dx, dy);
  });
  return finish(base, { area, sx, sy, xx, yy, xy, perimeter });
}

/** Anticlockwise positive, mm². */
export function signedAreaOf(loop: readonly PlaneCurve[]): number {
  let area = 0;
  eachSample(loop, startOf(loop[0]), (x, y, dx, dy, w) => (area += (w * (x * dy - y * dx)) / 2));
  return area;
}

/** The largest tolerance of the polylines among some curves, mm; 0 when all are what they are. */
export const toleranceOf = (curves: readonly PlaneCurve[]): number =>
  curves.reduce((t, c) => (c.shape === 'polyline' ? Math.max(t, c.tolerance) : t), 0);

/**
 * The parts of a curve on the side a·x + b·y ≤ c of a line, in order; it is split exactly where it crosses.
 */
export function splitCurve(
  curve: PlaneCurve,
  [a, b, c]: readonly [number, number, number],
): { piece: PlaneCurve; inside: boolean }[] {
  const side = ([x, y]: Point2) => c - a * x - b * y;
  if (curve.shape === 'polyline') return splitPolyline(curve, side);
  const cuts = curve.shape === 'line' ? lineCrossing(curve, side) : roundCrossings(curve, a, b, c);
  const stops = [0, ...cuts.filter((t) => t > RUN_END && t < 1 - RUN_END).sort((p, q) => p - q), 1];
  return stops.slice(1).map((end, i) => {
    const piece = between(curve, stops[i], end);
    // A piece may touch the line; the point of it that is farthest from the line tells the side.
    const farthest = pointsAlong(piece).reduce(
      (most, p) => (Math.abs(side(p)) > Math.abs(most) ? side(p) : most),
      0,
    );
    return { piece, inside: farthest >= 0 };
  });
}

function between(c: Exclude<PlaneCurve, { shape: 'polyline' }>, s: number, t: number): PlaneCurve {
  if (c.shape !== 'line')
    return { ...c, from: c.from + (c.to - c.from) * s, to: c.from + (c.to - c.from) * t };
  const at = (k: number): Point2 =>
    k === 0
      ? c.from
      : k === 1
        ? c.to
        : [c.from[0] + (c.to[0] - c.from[0]) * k, c.from[1] + (c.to[1] - c.from[1]) * k];
  return { shape: 'line', from: at(s), to: at(t) };
}

function lineCrossing(c: { from: Point2; to: Point2 }, side: (p: Point2) => number): number[] {
  const [d0, d1] = [side(c.from), side(c.to)];
  return d0 >= 0 === d1 >= 0 ? [] : [crossingOf(d0, d1)];
}

/** Where a·x + b·y = c on a round curve: p cos t + q sin t = r. As shares of the curve's run. */
function roundCrossings(
  curve: PlaneCurve & { shape: 'arc' | 'ellipse' },
  a: number,
  b: number,
  c: number,
): number[] {
  const [mx, my] = curve.shape === 'arc' ? [curve.radius, 0] : curve.major;
  const [nx, ny] = curve.shape === 'arc' ? [0, curve.radius] : [-my * curve.ratio, mx * curve.ratio];
  const [p, q, r] = [a * mx + b * my, a * nx + b * ny, c - a * curve.centre[0] - b * curve.centre[1]];
  const reach = Math.hypot(p, q);
  if (Math.abs(r) >= reach) return [];
  const [middle, half] = [Math.atan2(q, p), Math.acos(r / reach)];
  const run = curve.to - curve.from;
  return [middle - half, middle + half].map((t) => {
    // The same angle, as far as possible from the start in the sense of the run.
    const away = (run > 0 ? t - curve.from : curve.from - t) / (2 * Math.PI);
    return ((away - Math.floor(away)) * 2 * Math.PI) / Math.abs(run);
  });
}

function splitPolyline(
  curve: PlaneCurve & { shape: 'polyline' },
  side: (p: Point2) => number,
): { piece: PlaneCurve; inside: boolean }[] {
  const pieces: { piece: PlaneCurve & { shape: 'polyline' }; inside: boolean }[] = [];
  let points: Point2[] = [curve.points[0]];
  let inside = side(curve.points[0]) >= 0;
  const end = () => points.length > 1 && pieces.push({ piece: { ...curve, points }, inside });
  for (let i = 1; i < curve.points.length; i++) {
    const [p, q] = [curve.points[i - 1], curve.points[i]];
    const [dp, dq] = [side(p), side(q)];
    if (dp >= 0 !== dq >= 0) {
      const t = crossingOf(dp, dq);
      const at: Point2 = [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t];
      points.push(at);
      end();
      points = [at];
      inside = dq >= 0;
    }
    points.push(q);
  }
  end();
  return pieces;
}
