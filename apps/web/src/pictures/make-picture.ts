import { fitView, withProjection, type Projection } from '@bathyscope/core/camera';
import { boxCentre } from '@bathyscope/core/math';
import { dimensionMarks } from '@bathyscope/core/measure';
import type { ViewStyle } from '@bathyscope/core/style';
import { MILLIMETRES } from '@bathyscope/core/units';
import { dimensionsNow } from '../workspace/measuring/drawn-dimensions.ts';
import { shownBox } from '../workspace/shown/shown.ts';
import { paintDimensions } from './paint-dimensions.ts';
import { shownReach } from '../workspace/view/camera-targets.ts';
import { LARGEST_PICTURE } from '../state/scene-port.ts';
import { BACKGROUNDS } from '../workspace/view/styles.ts';
import { withDensity } from './print-density.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { activePane } from '../workspace/view/panes.ts';
import { styleOfPane } from '../workspace/view/styles.ts';

export interface PictureOptions {
  /** px; of a picture at exact scale they follow from the model. */
  width: number;
  height: number;
  type: 'image/png' | 'image/jpeg';
  background: 'theme' | 'white' | 'transparent';
  /** Absent: as the pane. */
  style?: ViewStyle;
  projection: 'as shown' | Projection;
  /** rad; for perspective. */
  lens: number;
  references: boolean;
  /** What is measured and kept is drawn, as large as the picture is. */
  dimensions: boolean;
  /** Paper to model and dots per inch; null for any scale. */
  exact: { scale: number; dpi: number } | null;
}

/** mm of paper around a model at exact scale. */
const PAPER_MARGIN = 5;

/** The size of a picture at exact scale, px. @throws RangeError with a sentence when it is too large */
export function exactSize(
  ws: Workspace,
  exact: { scale: number; dpi: number },
): { width: number; height: number; mmWide: number; camera: ReturnType<typeof activePane>['camera'] } {
  const { camera } = activePane(ws);
  const flat = withProjection(camera, 'orthographic', ws.camera.getState().pivot);
  const square = fitView(flat, { width: 1000, height: 1000 }, shownReach(ws), 0);
  // The extent of what is shown, from fits into very wide and very tall panes.
  const high = fitView(flat, { width: 1e6, height: 1 }, shownReach(ws), 0).height;
  const wide = fitView(flat, { width: 1, height: 1e6 }, shownReach(ws), 0).height / 1e6;
  const px = (mm: number) => Math.round(((mm * exact.scale + 2 * PAPER_MARGIN) * exact.dpi) / MILLIMETRES.in);
  const [width, height] = [px(wide), px(high)];
  if (Math.max(width, height) > LARGEST_PICTURE)
    throw new RangeError(
      `At this scale the picture would be ${width} × ${height} px; the largest is ${LARGEST_PICTURE} on a side. Choose a smaller scale or fewer dots per inch.`,
    );
  const mmHigh = ((height / exact.dpi) * MILLIMETRES.in) / exact.scale;
  return {
    width,
    height,
    mmWide: (width / exact.dpi) * MILLIMETRES.in,
    camera: { ...square, height: mmHigh },
  };
}

/** A picture of the pane under the cursor. The working view stays as it is. */
export async function makePicture(ws: Workspace, options: PictureOptions): Promise<Blob> {
  const { scene } = ws.scene.getState();
  if (!scene) throw new Error('There is no model to take a picture of.');
  const pane = activePane(ws);
  const exact = options.exact && exactSize(ws, options.exact);
  const [width, height] = exact ? [exact.width, exact.height] : [options.width, options.height];
  const base = exact?.camera ?? pane.camera;
  const projected =
    options.projection === 'as shown' || exact
      ? base
      : { ...withProjection(base, options.projection, ws.camera.getState().pivot), lens: options.lens };
  const style = options.style ?? styleOfPane(ws, pane.id);
  const own = style.background === 'theme' ? null : BACKGROUNDS[style.background];
  const background = options.background === 'white' ? '#ffffff' : options.background === 'theme' ? own : null;
  const scale = exact ? options.exact!.dpi / 96 : height / pane.size.height;
  const blob = await scene.picture({
    camera: projected,
    width,
    height,
    style,
    background,
    references: options.references,
    scale: Math.max(1, scale),
  });
  const bare = options.background === 'transparent' && options.type === 'image/png';
  const opaque = background !== null;
  const marks = options.dimensions
    ? dimensionMarks(
        await dimensionsNow(ws),
        projected,
        { width, height },
        boxCentre(shownBox(ws)),
        Math.max(1, scale),
      )
    : [];
  const ground = bare ? null : opaque || options.background !== 'theme' ? '#ffffff' : 'theme';
  const picture =
    (bare || (opaque && options.type === 'image/png')) && !marks.length
      ? blob
      : await compose(
          blob,
          bare || (opaque && options.type === 'image/png') ? null : ground,
          options.type,
          (context) => paintDimensions(context, marks, Math.max(1, scale)),
        );
  return options.exact ? withDensity(picture, options.exact.dpi) : picture;
}

/** Lays a picture on a background, unless it has none, and something over it; JPEG knows no transparency. */
async function compose(
  blob: Blob,
  background: string | null,
  type: PictureOptions['type'],
  over: (context: OffscreenCanvasRenderingContext2D) => void,
): Promise<Blob> {
  const bitmap = await createImageBitmap(blob);
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  const context = canvas.getContext('2d')!;
  if (background) {
    context.fillStyle = background === 'theme' ? themeGradient(context, bitmap.height) : background;
    context.fillRect(0, 0, bitmap.width, bitmap.height);
  }
  context.drawImage(bitmap, 0, 0);
  over(context);
  return canvas.convertToBlob({ type, quality: 0.93 });
}

/** The water of the theme, as on the page. */
export function themeGradient(
  context: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D,
  height: number,
): CanvasGradient {
  const style = getComputedStyle(document.documentElement);
  const gradient = context.createLinearGradient(0, 0, 0, height);
  gradient.addColorStop(0, style.getPropertyValue('--shoal-top').trim());
  gradient.addColorStop(1, style.getPropertyValue('--shoal-bottom').trim());
  return gradient;
}
