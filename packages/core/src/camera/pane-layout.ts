import {
  multiplyQuaternions,
  quaternionFromAxes,
  unitQuaternion,
  type Quaternion,
} from '../math/quaternion.ts';
import { addScaled, scale, type Vec3 } from '../math/vec3.ts';
import type { Pip } from './directions.ts';
import { FIT_MARGIN, heightHolding, type Support } from './fit-view.ts';
import { MIN_HEIGHT, viewBack, viewRight, viewUp, type Pane, type ViewCamera } from './view-camera.ts';

export type PaneLayout = 'one' | 'beside' | 'above' | 'four';
/** Third angle draws the view from the right on the right; first angle draws it on the left. */
export type Arrangement = 'first angle' | 'third angle';
/** The side of the main view that a linked pane looks at. */
export type LinkedSide = 'top' | 'bottom' | 'left' | 'right';

/** How the direction of a pane comes about. */
export type PaneMode = { kind: 'free' } | { kind: 'fixed'; pip: Pip } | { kind: 'linked'; side: LinkedSide };

/** In shares of the canvas, from its top left. */
export interface PaneRect {
  x: number;
  y: number;
  width: number;
  height: number;
}

const RECTS: Record<PaneLayout, Record<Arrangement, readonly PaneRect[]>> = {
  one: same([{ x: 0, y: 0, width: 1, height: 1 }]),
  beside: same([
    { x: 0, y: 0, width: 0.5, height: 1 },
    { x: 0.5, y: 0, width: 0.5, height: 1 },
  ]),
  above: {
    'third angle': [
      { x: 0, y: 0.5, width: 1, height: 0.5 },
      { x: 0, y: 0, width: 1, height: 0.5 },
    ],
    'first angle': [
      { x: 0, y: 0, width: 1, height: 0.5 },
      { x: 0, y: 0.5, width: 1, height: 0.5 },
    ],
  },
  four: {
    'third angle': [quadrant(0, 0.5), quadrant(0, 0), quadrant(0.5, 0.5), quadrant(0.5, 0)],
    'first angle': [quadrant(0, 0), quadrant(0, 0.5), quadrant(0.5, 0), quadrant(0.5, 0.5)],
  },
};

function same(rects: PaneRect[]): Record<Arrangement, readonly PaneRect[]> {
  return { 'first angle': rects, 'third angle': rects };
}

function quadrant(x: number, y: number): PaneRect {
  return { x, y, width: 0.5, height: 0.5 };
}

/**
 * Where the panes are; the first is the main one. In `four` the second shows its top, the third its
 * side, the fourth is free.
 */
export const paneRects = (layout: PaneLayout, arrangement: Arrangement): readonly PaneRect[] =>
  RECTS[layout][arrangement];

/**
 * What the panes of a layout are at first: linked as a drawing would arrange them (ISO
 * 5456-2), the last of four free.
 */
export function defaultModes(layout: PaneLayout, arrangement: Arrangement): PaneMode[] {
  const beside: LinkedSide = arrangement === 'third angle' ? 'right' : 'left';
  const modes: Record<PaneLayout, PaneMode[]> = {
    one: [{ kind: 'free' }],
    beside: [{ kind: 'free' }, { kind: 'linked', side: beside }],
    above: [{ kind: 'free' }, { kind: 'linked', side: 'top' }],
    four: [
      { kind: 'free' },
      { kind: 'linked', side: 'top' },
      { kind: 'linked', side: beside },
      { kind: 'free' },
    ],
  };
  return modes[layout];
}

/** Right, up and back of the linked eye in those of the main one. */
const SIDES: Record<LinkedSide, readonly [Vec3, Vec3, Vec3]> = {
  top: [
    [1, 0, 0],
    [0, 0, -1],
    [0, 1, 0],
  ],
  bottom: [
    [1, 0, 0],
    [0, 0, 1],
    [0, -1, 0],
  ],
  right: [
    [0, 0, -1],
    [0, 1, 0],
    [1, 0, 0],
  ],
  left: [
    [0, 0, 1],
    [0, 1, 0],
    [-1, 0, 0],
  ],
};

const sideTurn = (side: LinkedSide): Quaternion => quaternionFromAxes(...SIDES[side]);

/**
 * The view of a linked pane: from that side of the main view, same target and scale, so
 * that the pictures align.
 */
export const linkedView = (main: ViewCamera, side: LinkedSide, scaleTo: number): ViewCamera => ({
  ...main,
  orientation: unitQuaternion(multiplyQuaternions(main.orientation, sideTurn(side))),
  height: main.height * scaleTo,
});

/** The main view that belongs to a linked one: what undoes `linkedView`. */
export const mainOfLinked = (linked: ViewCamera, side: LinkedSide, scaleTo: number): ViewCamera => {
  const [x, y, z, w] = sideTurn(side);
  return {
    ...linked,
    orientation: unitQuaternion(multiplyQuaternions(linked.orientation, [-x, -y, -z, w])),
    height: linked.height / scaleTo,
  };
};

/**
 * The main view, fitted such that the shape's exact outline lies within it and within every linked pane; all
 * share the target, the middle of the shape.
 */
export function fitLinked(
  main: ViewCamera,
  size: Pane,
  linked: readonly { side: LinkedSide; size: Pane }[],
  reach: Support,
  margin = FIT_MARGIN,
): ViewCamera {
  const axes = [viewRight(main), viewUp(main), viewBack(main)];
  const ends = axes.map((a) => [reach(a), reach(scale(a, -1))]);
  if (!ends.flat().every(Number.isFinite)) return main;
  const target = axes.reduce<Vec3>(
    (sum, a, k) => addScaled(sum, a, (ends[k][0] - ends[k][1]) / 2),
    [0, 0, 0],
  );
  const centred = { ...main, target };
  const needed = linked.map(({ side, size: pane }) => {
    const scaleTo = pane.height / size.height;
    return heightHolding(linkedView(centred, side, scaleTo), pane, reach, margin) / scaleTo;
  });
  return { ...centred, height: Math.max(heightHolding(centred, size, reach, margin), ...needed, MIN_HEIGHT) };
}
