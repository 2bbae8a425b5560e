import type { Point2 } from '../math/point2.ts';
import type { Vec3 } from '../math/vec3.ts';
import { arcOfAngle, endsOfRound, type DimensionShape } from './dimension-shape.ts';
import {
  flatAngle,
  flatDimension,
  flatRound,
  SCREEN_SIZES,
  type DimensionSizes,
  type FlatDimension,
  type Moved,
} from './flat-dimension.ts';

/** What is measured, as it is drawn over a model; model space. */
export type DrawnDimension = {
  key: string;
  text: string;
  colour?: string;
  /** Where the user moved it: px on the screen at scale 1. */
  moved?: Moved;
} & (
  | DimensionShape
  | {
      /** The line between two nearest points; a place that is marked, or pointed to. */ kind:
        'least' | 'place' | 'pointed';
      ends: readonly [Vec3, Vec3];
    }
);

/** How model space is seen by what draws: on a screen, or on paper. */
export interface DimensionView {
  /** null behind the eye. */
  flat: (p: Vec3) => Point2 | null;
  /** Unit, from a point. */
  toEye: (p: Vec3) => Vec3;
  right: Vec3;
  up: Vec3;
  /** Model mm of one unit of the drawing at a point. */
  unitAt: (p: Vec3) => number;
  /** Of the model as it is drawn; dimensions stand away from it. */
  middle: Point2;
  sizes: DimensionSizes;
  /** Width of a letter. */
  letter: number;
  /** 1 where the second coordinate grows upwards, −1 where downwards. */
  upwards: 1 | -1;
}

/** A dimension in the plane of its drawing. */
export interface Flattened {
  ends: [Point2, Point2];
  flat: FlatDimension | null;
  /** What a text belongs to that had to be moved away, and where it is wished. */
  anchor: Point2;
  text: Point2;
  /** The directions in which it is moved. */
  axes: [Point2, Point2];
}

/** Radius of an angle's arc, in distances of a dimension from its thing. */
const ARC = 2;

/** @returns null where it is not seen */
export function flattenDimension(drawn: DrawnDimension, view: DimensionView): Flattened | null {
  const { flat: project, sizes, upwards } = view;
  const [mx, my] = drawn.moved ?? [0, 0];
  const byPx = sizes.away / SCREEN_SIZES.away;
  const aside: [Point2, Point2] = [
    [1, 0],
    [0, upwards],
  ];
  const moved = ([x, y]: Point2): Point2 => [x + mx * byPx, y + upwards * my * byPx];
  if (drawn.kind === 'angle') {
    // Beside the things, where they lie far from where they meet.
    const radius = Math.max(ARC * sizes.away * view.unitAt(drawn.at), drawn.reach);
    const [corner, ...arc] = [drawn.at, ...arcOfAngle(drawn, radius)].map(project);
    if (!corner || arc.length < 3 || arc.includes(null)) return null;
    const flat = flatAngle(corner, arc as Point2[], sizes);
    return { ends: [corner, corner], flat, anchor: flat.text, text: moved(flat.text), axes: aside };
  }
  const [a, b] = (
    drawn.kind === 'round' ? endsOfRound(drawn, view.toEye(drawn.centre), view.right, view.up) : drawn.ends
  ).map(project);
  if (!a || !b) return null;
  const ends: [Point2, Point2] = [a, b];
  if (drawn.kind === 'round') {
    const flat = flatRound(a, b, drawn.towards !== null, sizes);
    // The text begins where the line ends.
    const half = (drawn.text.length * view.letter) / 2;
    const text: Point2 = [flat.text[0] + (b[0] < a[0] ? -half : half), flat.text[1]];
    return { ends, flat, anchor: text, text: moved(text), axes: aside };
  }
  if (drawn.kind === 'dimension') {
    const { axes, ...flat } = flatDimension(a, b, view.middle, sizes, [mx * byPx, my * byPx]);
    return { ends, flat, anchor: flat.text, text: flat.text, axes };
  }
  const between: Point2 = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  const [right, over] = drawn.kind === 'pointed' ? [sizes.away, sizes.away] : [0, OVER * sizes.away];
  return {
    ends,
    flat: null,
    anchor: between,
    text: moved([between[0] + right, between[1] + upwards * over]),
    axes: aside,
  };
}
/** Of a dimension's distance from its thing: how far a text stands over the middle of a line. */
const OVER = 10 / 34;
