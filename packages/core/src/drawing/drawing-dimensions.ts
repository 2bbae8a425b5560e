import { rotate, type Quaternion } from '../math/quaternion.ts';
import { dot, type Vec3 } from '../math/vec3.ts';
import type { DrawnDimension } from '../measure/dimension-marks.ts';
import { flatDimension, flatPointer, PAPER_SIZES, type DimensionSizes } from '../measure/flat-dimension.ts';
import { placeLabels } from '../measure/place-labels.ts';
import type { Drawing, DrawingDimension, Point2 } from './drawing.ts';

/** mm: lettering height of ISO 3098 in line group 0.5. */
export const TEXT_ON_PAPER = 3.5;
/** Of its height: width of a letter, about. */
const LETTER = 0.62;
/** mm of paper: how far a text stands from what it points to. */
const ASIDE = 12;

/** Adds dimensions to a drawing. @param scale paper to model */
export function withDimensions(drawing: Drawing, drawn: readonly DrawnDimension[], orientation: Quaternion, scale: number): Drawing {
  if (!drawn.length) return drawing;
  const [x, y] = [rotate(orientation, [1, 0, 0]), rotate(orientation, [0, 1, 0])];
  const flat = (p: Vec3): Point2 => [dot(p, x), dot(p, y)];
  const { minX, minY, maxX, maxY } = drawing.box;
  const middle: Point2 = [(minX + maxX) / 2, (minY + maxY) / 2];
  const sizes = Object.fromEntries(Object.entries(PAPER_SIZES).map(([k, v]) => [k, v / scale])) as unknown as DimensionSizes;
  const height = TEXT_ON_PAPER / scale;
  const made = drawn.map(({ kind, ends, text }) => {
    const [a, b] = ends.map(flat);
    if (kind === 'dimension' || kind === 'least') return { ...flatDimension(a, b, middle, sizes), value: text, anchor: null };
    const aside = ASIDE / scale;
    return { lines: [], arrows: [], value: text, anchor: a, text: [a[0] + aside, a[1] + aside] as Point2 };
  });
  // Texts stand over their lines.
  const places = placeLabels(
    made.map(({ value, text: [tx, ty], anchor }) => ({
      x: tx,
      y: ty + (anchor ? 0 : height),
      width: value.length * height * LETTER,
      height: 1.3 * height,
    })),
  );
  const dimensions = made.map(({ lines, arrows, value, anchor }, i): DrawingDimension => {
    const at: Point2 = [places[i].x, places[i].y];
    const pointer = anchor && flatPointer(anchor, at, sizes.arrow);
    return { lines: pointer?.lines ?? lines, arrows: pointer?.arrows ?? arrows, text: { value, at, height } };
  });
  return { ...drawing, dimensions, box: boxWith(drawing.box, dimensions) };
}

function boxWith(box: Drawing['box'], dimensions: readonly DrawingDimension[]): Drawing['box'] {
  const points = dimensions.flatMap(({ lines, text: { value, at, height } }) => {
    const half = (value.length * height * LETTER) / 2;
    return [...lines.flat(), [at[0] - half, at[1] - height] as const, [at[0] + half, at[1] + height] as const];
  });
  return {
    minX: Math.min(box.minX, ...points.map((p) => p[0])),
    minY: Math.min(box.minY, ...points.map((p) => p[1])),
    maxX: Math.max(box.maxX, ...points.map((p) => p[0])),
    maxY: Math.max(box.maxY, ...points.map((p) => p[1])),
  };
}
