import type { Point2 } from '../math/point2.ts';
import { rotate, type Quaternion } from '../math/quaternion.ts';
import { dot, type Vec3 } from '../math/vec3.ts';
import { flatPointer, PAPER_SIZES, type DimensionSizes } from '../measure/flat-dimension.ts';
import { flattenDimension, type DimensionView, type DrawnDimension } from '../measure/flatten-dimension.ts';
import { placeLabels } from '../measure/place-labels.ts';
import type { Drawing, DrawingDimension } from './drawing.ts';

/** mm: lettering height of ISO 3098 in line group 0.5. */
export const TEXT_ON_PAPER = 3.5;
/** Of its height: width of a letter, about. */
const LETTER = 0.62;

/** Adds dimensions to a drawing. @param scale paper to model */
export function withDimensions(
  drawing: Drawing,
  drawn: readonly DrawnDimension[],
  orientation: Quaternion,
  scale: number,
): Drawing {
  if (!drawn.length) return drawing;
  const [x, y, z]: Vec3[] = [
    rotate(orientation, [1, 0, 0]),
    rotate(orientation, [0, 1, 0]),
    rotate(orientation, [0, 0, 1]),
  ];
  const { minX, minY, maxX, maxY } = drawing.box;
  const sizes = Object.fromEntries(
    Object.entries(PAPER_SIZES).map(([k, v]) => [k, v / scale]),
  ) as unknown as DimensionSizes;
  const height = TEXT_ON_PAPER / scale;
  const view: DimensionView = {
    flat: (p) => [dot(p, x), dot(p, y)],
    toEye: () => z,
    right: x,
    up: y,
    unitAt: () => 1,
    middle: [(minX + maxX) / 2, (minY + maxY) / 2],
    sizes,
    letter: height * LETTER,
    upwards: 1,
  };
  const made = drawn.flatMap((d) => {
    // On paper the nearest points have a dimension too.
    const found = flattenDimension(d.kind === 'least' ? { ...d, kind: 'dimension' } : d, view);
    return found
      ? [
          {
            lines: found.flat?.lines ?? [],
            arrows: found.flat?.arrows ?? [],
            value: d.text,
            anchor: found.flat ? null : found.ends[0],
            text: found.text,
          },
        ]
      : [];
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
    // On paper nothing is left out.
    const [tx, ty] = made[i].text;
    const { x, y } = places[i] ?? { x: tx, y: ty };
    const at: Point2 = [x, y];
    const pointer = anchor && flatPointer(anchor, at, sizes.arrow);
    return { lines: pointer?.lines ?? lines, arrows: pointer?.arrows ?? arrows, text: { value, at, height } };
  });
  return { ...drawing, dimensions, box: boxWith(drawing.box, dimensions) };
}

function boxWith(box: Drawing['box'], dimensions: readonly DrawingDimension[]): Drawing['box'] {
  const points = dimensions.flatMap(({ lines, text: { value, at, height } }) => {
    const half = (value.length * height * LETTER) / 2;
    return [
      ...lines.flat(),
      [at[0] - half, at[1] - height] as const,
      [at[0] + half, at[1] + height] as const,
    ];
  });
  return {
    minX: Math.min(box.minX, ...points.map((p) => p[0])),
    minY: Math.min(box.minY, ...points.map((p) => p[1])),
    maxX: Math.max(box.maxX, ...points.map((p) => p[0])),
    maxY: Math.max(box.maxY, ...points.map((p) => p[1])),
  };
}
