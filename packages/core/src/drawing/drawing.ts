import type { Point2 } from '../math/point2.ts';
/** A drawing in the plane of a view: x to the right, y up, mm at true scale. */
export interface Drawing {
  curves: DrawnCurve[];
  /** Largest distance of a polyline from the curve it stands for, mm. */
  tolerance: number;
  /** What was measured, on a layer of its own. */
  dimensions?: DrawingDimension[];
  /** mm */
  box: { minX: number; minY: number; maxX: number; maxY: number };
}

/** A dimension in a drawing, in its plane at true scale: lines, arrowheads, a text. */
export interface DrawingDimension {
  lines: [Point2, Point2][];
  arrows: [Point2, Point2, Point2][];
  /** `at` is its middle; height in mm of the model, so that it is as large as it should be on paper. */
  text: { value: string; at: Point2; height: number };
}

export type LineKind = 'visible' | 'hidden' | 'smooth' | 'hatch';

export type DrawnCurve = { kind: LineKind } & (
  | { shape: 'line'; from: Point2; to: Point2 }
  /** Anticlockwise from one angle (rad) to a larger one; a full turn is a circle. */
  | { shape: 'arc'; centre: Point2; radius: number; from: number; to: number }
  | { shape: 'polyline'; points: Point2[] }
);

/**
 * How each kind is drawn. ISO 128-2:2020: 01.2 continuous wide for visible edges and outlines, 02.1 dashed
 * narrow for hidden ones, 01.1 continuous narrow for imaginary intersections (smooth edges) and hatching;
 * wide to narrow 2:1, here line group 0.5. Dashes of 12 and gaps of 3 line widths. mm on paper.
 */
export const ISO_128_LINES: Record<LineKind, { width: number; dash: readonly number[]; layer: string }> = {
  visible: { width: 0.5, dash: [], layer: 'VISIBLE' },
  hidden: { width: 0.25, dash: [3, 0.75], layer: 'HIDDEN' },
  smooth: { width: 0.25, dash: [], layer: 'SMOOTH' },
  hatch: { width: 0.25, dash: [], layer: 'HATCH' },
};

export function boxOfCurves(curves: readonly DrawnCurve[]): Drawing['box'] {
  const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  const take = ([x, y]: Point2) => {
    box.minX = Math.min(box.minX, x);
    box.minY = Math.min(box.minY, y);
    box.maxX = Math.max(box.maxX, x);
    box.maxY = Math.max(box.maxY, y);
  };
  for (const c of curves) {
    if (c.shape === 'line') [c.from, c.to].forEach(take);
    else if (c.shape === 'polyline') c.points.forEach(take);
    else arcExtremes(c).forEach(take);
  }
  return curves.length ? box : { minX: 0, minY: 0, maxX: 0, maxY: 0 };
}

export const pointOnArc = (a: { centre: Point2; radius: number }, angle: number): Point2 => [
  a.centre[0] + a.radius * Math.cos(angle),
  a.centre[1] + a.radius * Math.sin(angle),
];

function arcExtremes(a: { centre: Point2; radius: number; from: number; to: number }): Point2[] {
  const points = [pointOnArc(a, a.from), pointOnArc(a, a.to)];
  for (let q = Math.ceil(a.from / (Math.PI / 2)); q * (Math.PI / 2) <= a.to; q++)
    points.push(pointOnArc(a, q * (Math.PI / 2)));
  return points;
}
