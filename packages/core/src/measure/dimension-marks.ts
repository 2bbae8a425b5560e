import { project, type Pane, type ViewCamera } from '../camera/view-camera.ts';
import type { Point2 } from '../drawing/drawing.ts';
import type { Vec3 } from '../math/vec3.ts';
import { flatDimension, flatPointer, SCREEN_SIZES, type DimensionSizes } from './flat-dimension.ts';
import { placeLabels } from './place-labels.ts';

/** What is measured, as it is drawn over a model; ends in model space. */
export interface DrawnDimension {
  key: string;
  /** A dimension with arrowheads; the line between two nearest points; a place that is marked, or pointed to. */
  kind: 'dimension' | 'least' | 'place' | 'pointed';
  ends: readonly [Vec3, Vec3];
  text: string;
  colour?: string;
}

/** The same on a picture, px: what to draw of it. */
export interface DimensionMarks extends Pick<DrawnDimension, 'key' | 'kind' | 'colour'> {
  lines: [Point2, Point2][];
  arrows: [Point2, Point2, Point2][];
  /** Ends of a least distance; the middle of a mark. */
  dots: Point2[];
  label: { text: string; x: number; y: number; width: number; height: number } | null;
}

/** px at scale 1. */
const TEXT_HEIGHT = 13;
const LETTER = 7.4;
const OVER = 10;
const ASIDE = 34;

/** Of a text in the figures' typeface. */
export const TEXT_SIZE = TEXT_HEIGHT;

/**
 * Dimensions as they are seen through a camera: beside what they measure, away from the middle of the model, texts level and pushed
 * apart, with a line back to where they belong. What lies behind the eye is left out.
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
  const sizes = Object.fromEntries(Object.entries(SCREEN_SIZES).map(([k, v]) => [k, v * scale])) as unknown as DimensionSizes;
  const seen = drawn.flatMap(({ key, kind, ends, text, colour }) => {
    const [p, q] = ends.map((end) => project(camera, size, end));
    if (p.behind || q.behind) return [];
    const [a, b]: Point2[] = [
      [p.x, p.y],
      [q.x, q.y],
    ];
    const between: Point2 = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
    const flat = kind === 'dimension' ? flatDimension(a, b, [centre.x, centre.y], sizes) : null;
    const anchor: Point2 = flat?.text ?? between;
    const wished: Point2 =
      kind === 'pointed'
        ? [anchor[0] + ASIDE * scale, anchor[1] - ASIDE * scale]
        : kind === 'dimension'
          ? anchor
          : [anchor[0], anchor[1] - OVER * scale];
    return [{ key, kind, text, a, b, anchor, flat, wished, ...(colour && { colour }) }];
  });
  const labels = placeLabels(
    seen.map(({ text, wished: [x, y] }) => ({
      x,
      y,
      width: text ? (text.length * LETTER + 8) * scale : 0,
      height: text ? (TEXT_HEIGHT + 3) * scale : 0,
    })),
  );
  return seen.map(({ key, kind, text, a, b, anchor, flat, colour }, i): DimensionMarks => {
    const { x, y } = labels[i];
    const pointer = kind === 'pointed' ? flatPointer(a, [x, y], sizes.arrow) : null;
    const moved = text !== '' && !pointer && Math.hypot(x - anchor[0], y - anchor[1]) > 2 * OVER * scale;
    return {
      key,
      kind,
      ...(colour && { colour }),
      lines: [
        ...(flat?.lines ?? pointer?.lines ?? (kind === 'least' ? [[a, b] as [Point2, Point2]] : [])),
        ...(moved ? [[anchor, [x, y]] as [Point2, Point2]] : []),
      ],
      arrows: flat?.arrows ?? pointer?.arrows ?? [],
      dots: kind === 'least' ? [a, b] : kind === 'place' ? [a] : [],
      label: text ? { text, x, y, width: (text.length * LETTER + 8) * scale, height: (TEXT_HEIGHT + 3) * scale } : null,
    };
  });
}
