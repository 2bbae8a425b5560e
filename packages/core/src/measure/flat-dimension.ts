import type { Point2 } from '../math/point2.ts';

/** Sizes of a dimension, in the units it is drawn in: px, or mm of the drawing. */
export interface DimensionSizes {
  arrow: number;
  /** Between the thing and its extension line, and how far that runs past the dimension line. */
  gap: number;
  past: number;
  /** How far the dimension line lies from the thing. */
  away: number;
}

/** A dimension as lines and filled triangles (ISO 129-1: arrowheads 15° wide). */
export interface FlatDimension {
  lines: [Point2, Point2][];
  arrows: [Point2, Point2, Point2][];
  /** Where the text's middle goes. */
  text: Point2;
}

const HALF_ANGLE = (7.5 * Math.PI) / 180;
/** Arrowheads stand outside where the line is shorter than so many of them. */
const ROOM = 3;

/**
 * ISO 129-1 at a line width of 0.25 mm on paper: extension lines begin 1 mm off and
 * run 2 mm past. mm of paper.
 */
export const PAPER_SIZES: DimensionSizes = { arrow: 2.5, gap: 1, past: 2, away: 8 };
export const SCREEN_SIZES: DimensionSizes = { arrow: 12, gap: 4, past: 7, away: 34 };

/** Where a user moved a dimension: farther away from what it measures, and its text along the line. */
export type Moved = readonly [away: number, along: number];

/**
 * A dimension between two points, beside them on the side that lies away from the middle of what is drawn, or
 * where it was moved.
 */
export function flatDimension(
  a: Point2,
  b: Point2,
  middle: Point2,
  { arrow, gap, past, ...sizes }: DimensionSizes,
  [farther, shift]: Moved = [0, 0],
): FlatDimension & { /** Away from the thing, and along the line. */ axes: [Point2, Point2] } {
  const away = sizes.away + farther;
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const way: Point2 = length > 0 ? [(b[0] - a[0]) / length, (b[1] - a[1]) / length] : [1, 0];
  const centre: Point2 = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  const across: Point2 = [-way[1], way[0]];
  const side = (centre[0] - middle[0]) * across[0] + (centre[1] - middle[1]) * across[1] < 0 ? -1 : 1;
  const out = (p: Point2, by: number): Point2 => [p[0] + across[0] * side * by, p[1] + across[1] * side * by];
  const along = (p: Point2, by: number): Point2 => [p[0] + way[0] * by, p[1] + way[1] * by];
  const [p, q] = [out(a, away), out(b, away)];
  const inwards = length >= ROOM * arrow ? 1 : -1;
  const head = (tip: Point2, sense: number) => arrowhead(tip, along(tip, sense * arrow), arrow);
  const beyond = inwards < 0 ? 2 * arrow : 0;
  const sense = Math.sign(away) || 1;
  // The line goes on under a text that was moved past its end.
  const [left, right] = [Math.max(beyond, -shift - length / 2), Math.max(beyond, shift - length / 2)];
  return {
    lines: [
      [out(a, sense * gap), out(a, away + sense * past)],
      [out(b, sense * gap), out(b, away + sense * past)],
      [along(p, -left), along(q, right)],
    ],
    arrows: [head(p, inwards), head(q, -inwards)],
    text: along([(p[0] + q[0]) / 2, (p[1] + q[1]) / 2], shift),
    axes: [out([0, 0], 1), way],
  };
}

/** An arrowhead with its tip at a place, that comes from a direction. */
function arrowhead(tip: Point2, from: Point2, arrow: number): [Point2, Point2, Point2] {
  const length = Math.hypot(from[0] - tip[0], from[1] - tip[1]) || 1;
  const way: Point2 = [((from[0] - tip[0]) / length) * arrow, ((from[1] - tip[1]) / length) * arrow];
  const half = Math.tan(HALF_ANGLE);
  const back: Point2 = [tip[0] + way[0], tip[1] + way[1]];
  return [
    tip,
    [back[0] - way[1] * half, back[1] + way[0] * half],
    [back[0] + way[1] * half, back[1] - way[0] * half],
  ];
}

const pairs = (points: readonly Point2[]): [Point2, Point2][] =>
  points.slice(1).map((p, i) => [points[i], p]);
const beyondOf = (from: Point2, to: Point2, by: number): Point2 => {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]) || 1;
  return [to[0] + ((to[0] - from[0]) / length) * by, to[1] + ((to[1] - from[1]) / length) * by];
};

/**
 * An angle: its arc between extension lines from the corner, arrowheads along the arc. @param arc as it is
 * seen, from end to end
 */
export function flatAngle(
  corner: Point2,
  arc: readonly Point2[],
  { arrow, gap, past }: DimensionSizes,
): FlatDimension {
  const [first, last] = [arc[0], arc.at(-1)!];
  return {
    lines: [
      ...pairs(arc),
      [beyondOf(first, corner, -gap), beyondOf(corner, first, past)],
      [beyondOf(last, corner, -gap), beyondOf(corner, last, past)],
    ],
    arrows: [arrowhead(first, arc[2], arrow), arrowhead(last, arc.at(-3)!, arrow)],
    text: beyondOf(corner, arc[Math.floor(arc.length / 2)], 1.5 * arrow),
  };
}

/**
 * A diameter from p to q, or a radius from its centre p to q: the line goes on to the text; where it is short
 * the arrowheads stand outside.
 */
export function flatRound(
  p: Point2,
  q: Point2,
  isRadius: boolean,
  { arrow, away }: DimensionSizes,
): FlatDimension {
  const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
  const seen: Point2 = length > 0 ? q : [p[0] + 1, p[1]];
  const inside = length >= ROOM * arrow;
  const end = beyondOf(p, seen, away);
  const start = inside || isRadius ? p : beyondOf(seen, p, 2 * arrow);
  const head = (tip: Point2, other: Point2) =>
    arrowhead(tip, inside ? other : beyondOf(other, tip, arrow), arrow);
  return { lines: [[start, end]], arrows: [head(seen, p), ...(isRadius ? [] : [head(p, seen)])], text: end };
}

/** A text with a line to the place it tells of. */
export function flatPointer(
  at: Point2,
  text: Point2,
  arrow: number,
): Pick<FlatDimension, 'lines' | 'arrows'> {
  return { lines: [[at, text]], arrows: [arrowhead(at, text, arrow)] };
}
