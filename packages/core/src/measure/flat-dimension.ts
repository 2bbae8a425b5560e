import type { Point2 } from '../drawing/drawing.ts';

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

/** ISO 129-1 at a line width of 0.25 mm on paper: extension lines begin 1 mm off and run 2 mm past. mm of paper. */
export const PAPER_SIZES: DimensionSizes = { arrow: 2.5, gap: 1, past: 2, away: 8 };
export const SCREEN_SIZES: DimensionSizes = { arrow: 12, gap: 4, past: 7, away: 34 };

/**
 * A dimension between two points, beside them on the side that lies away from the middle of what is drawn.
 */
export function flatDimension(a: Point2, b: Point2, middle: Point2, { arrow, gap, past, away }: DimensionSizes): FlatDimension {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const way: Point2 = length > 0 ? [(b[0] - a[0]) / length, (b[1] - a[1]) / length] : [1, 0];
  const centre: Point2 = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  const across: Point2 = [-way[1], way[0]];
  const side = (centre[0] - middle[0]) * across[0] + (centre[1] - middle[1]) * across[1] < 0 ? -1 : 1;
  const out = (p: Point2, by: number): Point2 => [p[0] + across[0] * side * by, p[1] + across[1] * side * by];
  const along = (p: Point2, by: number): Point2 => [p[0] + way[0] * by, p[1] + way[1] * by];
  const [p, q] = [out(a, away), out(b, away)];
  const inwards = length >= ROOM * arrow ? 1 : -1;
  const head = (tip: Point2, sense: number): [Point2, Point2, Point2] => {
    const back = along(tip, sense * arrow);
    const half = arrow * Math.tan(HALF_ANGLE);
    return [tip, out(back, half), out(back, -half)];
  };
  const beyond = inwards < 0 ? 2 * arrow : 0;
  return {
    lines: [
      [out(a, gap), out(a, away + past)],
      [out(b, gap), out(b, away + past)],
      [along(p, -beyond), along(q, beyond)],
    ],
    arrows: [head(p, inwards), head(q, -inwards)],
    text: [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2],
  };
}

/** A text with a line to the place it tells of. */
export function flatPointer(at: Point2, text: Point2, arrow: number): Pick<FlatDimension, 'lines' | 'arrows'> {
  const length = Math.hypot(text[0] - at[0], text[1] - at[1]) || 1;
  const way: Point2 = [(text[0] - at[0]) / length, (text[1] - at[1]) / length];
  const back: Point2 = [at[0] + way[0] * arrow, at[1] + way[1] * arrow];
  const half = arrow * Math.tan(HALF_ANGLE);
  return {
    lines: [[at, text]],
    arrows: [[at, [back[0] - way[1] * half, back[1] + way[0] * half], [back[0] + way[1] * half, back[1] - way[0] * half]]],
  };
}
