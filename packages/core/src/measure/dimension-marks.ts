import type { Point2 } from '../math/point2.ts';
import {
  pixelSizeAt,
  project,
  towardsEye,
  viewRight,
  viewUp,
  type Pane,
  type ViewCamera,
} from '../camera/view-camera.ts';
import type { Vec3 } from '../math/vec3.ts';
import { flatPointer, SCREEN_SIZES, type DimensionSizes } from './flat-dimension.ts';
import { flattenDimension, type DimensionView, type DrawnDimension } from './flatten-dimension.ts';
import { placeLabels } from './place-labels.ts';

/** A dimension on a picture, px: what to draw of it. */
export interface DimensionMarks extends Pick<DrawnDimension, 'key' | 'kind' | 'colour'> {
  lines: [Point2, Point2][];
  arrows: [Point2, Point2, Point2][];
  /** Ends of a least distance; the middle of a mark. */
  dots: Point2[];
  label: { text: string; x: number; y: number; width: number; height: number } | null;
  /** The two directions in which it is moved, as its own are counted. */
  axes: [Point2, Point2];
}

/** px at scale 1. */
const TEXT_HEIGHT = 13;
const LETTER = 7.8;
const FAR_OFF = 20;

/** Of a text in the figures' typeface. */
export const TEXT_SIZE = TEXT_HEIGHT;

/**
 * Dimensions as they are seen through a camera: beside what they measure, away from the middle of the model,
 * texts level and pushed apart, with a line back to where they belong. A text that finds no place is left
 * out, and so is what lies behind the eye.
 * @param middle of the model @param scale of lines and texts: 1 on the screen, more in large pictures
 */
export function dimensionMarks(
  drawn: readonly DrawnDimension[],
  camera: ViewCamera,
  size: Pane,
  middle: Vec3,
  scale = 1,
): DimensionMarks[] {
  const centre = project(camera, size, middle);
  const sizes = Object.fromEntries(
    Object.entries(SCREEN_SIZES).map(([k, v]) => [k, v * scale]),
  ) as unknown as DimensionSizes;
  const view: DimensionView = {
    flat: (p) => {
      const { x, y, behind } = project(camera, size, p);
      return behind ? null : [x, y];
    },
    toEye: (p) => towardsEye(camera, p),
    right: viewRight(camera),
    up: viewUp(camera),
    unitAt: (p) => pixelSizeAt(camera, size, p),
    middle: [centre.x, centre.y],
    sizes,
    letter: LETTER * scale,
    upwards: -1,
  };
  const seen = drawn.flatMap((d) => {
    const found = flattenDimension(d, view);
    return found ? [{ ...d, ...found, said: d.text }] : [];
  });
  const labels = placeLabels(
    seen.map(({ said, text: [x, y] }) => ({
      x,
      y,
      width: said ? (said.length * LETTER + 8) * scale : 0,
      height: said ? (TEXT_HEIGHT + 3) * scale : 0,
    })),
  );
  return seen.map(({ key, kind, said, ends: [a, b], anchor, flat, colour, axes }, i): DimensionMarks => {
    const { x, y } = labels[i] ?? { x: anchor[0], y: anchor[1] };
    const pointer = kind === 'pointed' && labels[i] ? flatPointer(a, [x, y], sizes.arrow) : null;
    const shown = said !== '' && labels[i] !== null;
    const farOff = shown && !pointer && Math.hypot(x - anchor[0], y - anchor[1]) > FAR_OFF * scale;
    return {
      key,
      kind,
      axes,
      ...(colour && { colour }),
      lines: [
        ...(flat?.lines ?? pointer?.lines ?? (kind === 'least' ? [[a, b] as [Point2, Point2]] : [])),
        ...(farOff ? [[anchor, [x, y]] as [Point2, Point2]] : []),
      ],
      arrows: flat?.arrows ?? pointer?.arrows ?? [],
      dots: kind === 'least' ? [a, b] : kind === 'place' ? [a] : [],
      label: shown
        ? { text: said, x, y, width: (said.length * LETTER + 8) * scale, height: (TEXT_HEIGHT + 3) * scale }
        : null,
    };
  });
}
