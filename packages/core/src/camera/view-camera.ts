import { TINY } from '../tolerances.ts';
import { rotate, type Quaternion } from '../math/quaternion.ts';
import { addScaled, dot, normalize, subtract, type Vec3 } from '../math/vec3.ts';

export type Projection = 'orthographic' | 'perspective';

/** A view: where it looks, how it is turned, how much it shows. Plain data; lengths in mm, angles in rad. */
export interface ViewCamera {
  projection: Projection;
  /** The point in the middle of the pane. */
  target: Vec3;
  /** Turns the view's axes (right, up, towards the eye) into the model's. */
  orientation: Quaternion;
  /** Height of the visible field in the plane of the target. */
  height: number;
  /** Vertical opening angle of the perspective; kept while the view is orthographic. */
  lens: number;
}

export interface Pane {
  /** px */
  width: number;
  height: number;
}

/** rad. 30° is about the angle under which a drawing on a desk is seen: little distortion. */
export const DEFAULT_LENS = Math.PI / 6;
export const MIN_LENS = (5 * Math.PI) / 180;
export const MAX_LENS = (100 * Math.PI) / 180;

/** mm. Views are not zoomed beyond what single precision can show. */
export const MIN_HEIGHT = 0.001;
export const MAX_HEIGHT = 1e7;

export const viewRight = (c: ViewCamera): Vec3 => rotate(c.orientation, [1, 0, 0]);
export const viewUp = (c: ViewCamera): Vec3 => rotate(c.orientation, [0, 1, 0]);
/** Unit vector from the model towards the eye. */
export const viewBack = (c: ViewCamera): Vec3 => rotate(c.orientation, [0, 0, 1]);

/** mm of the model that one pixel covers in the plane of the target. */
export const pixelSize = (c: ViewCamera, pane: Pane): number => c.height / pane.height;

/** Distance from the eye to the plane of the target; what it would be for an orthographic view too. */
export const eyeDistance = (c: ViewCamera): number => c.height / 2 / Math.tan(c.lens / 2);

/** Where the eye of a perspective view is. */
export const eyePoint = (c: ViewCamera): Vec3 => addScaled(c.target, viewBack(c), eyeDistance(c));

/**
 * How much larger than at the target a thing at this height towards the eye appears; infinite or negative at
 * and behind the eye.
 */
export function magnification(c: ViewCamera, towardsEye: number): number {
  if (c.projection === 'orthographic') return 1;
  const d = eyeDistance(c);
  return d / (d - towardsEye);
}

/** mm of the model that one pixel covers at a point. */
export const pixelSizeAt = (c: ViewCamera, pane: Pane, p: Vec3): number =>
  pixelSize(c, pane) / Math.max(TINY, magnification(c, dot(subtract(p, c.target), viewBack(c))));

export interface Projected {
  /** px from the pane's top left. */
  x: number;
  y: number;
  /** mm towards the eye from the plane of the target. */
  depth: number;
  /** A point behind the eye has no place on the screen; x and y are then meaningless. */
  behind: boolean;
}

/** Screen position of a point. */
export function project(c: ViewCamera, pane: Pane, p: Vec3): Projected {
  const d = subtract(p, c.target);
  const depth = dot(d, viewBack(c));
  const m = magnification(c, depth);
  const size = pixelSize(c, pane) / m;
  return {
    x: pane.width / 2 + dot(d, viewRight(c)) / size,
    y: pane.height / 2 - dot(d, viewUp(c)) / size,
    depth,
    behind: !(m > 0 && Number.isFinite(m)),
  };
}

/** The point under a pixel at the given height towards the eye over the plane of the target (0: in it). */
export function unproject(c: ViewCamera, pane: Pane, x: number, y: number, depth = 0): Vec3 {
  const size = pixelSize(c, pane) / magnification(c, depth);
  const inPlane = addScaled(
    addScaled(c.target, viewRight(c), (x - pane.width / 2) * size),
    viewUp(c),
    (pane.height / 2 - y) * size,
  );
  return addScaled(inPlane, viewBack(c), depth);
}

/**
 * The line of sight through a pixel, away from the eye. Orthographic rays start in the plane of the target.
 */
export function viewRay(c: ViewCamera, pane: Pane, x: number, y: number): { origin: Vec3; direction: Vec3 } {
  const under = unproject(c, pane, x, y);
  if (c.projection === 'orthographic') {
    const back = viewBack(c);
    return { origin: under, direction: [-back[0], -back[1], -back[2]] };
  }
  const origin = eyePoint(c);
  return { origin, direction: normalize(subtract(under, origin)) };
}

/** Unit vector from a point of the model towards the eye. */
export const towardsEye = (c: ViewCamera, p: Vec3): Vec3 =>
  c.projection === 'orthographic' ? viewBack(c) : normalize(subtract(eyePoint(c), p));

/**
 * The camera that sees one tile of a picture (px of the whole) as the whole picture's camera does. A
 * perspective tile off the middle is no plain camera; it is given a frustum of its own by `offset`.
 */
export interface TileCamera extends ViewCamera {
  /** Of the tile's middle from the picture's, in tile widths and heights; only perspective needs it. */
  offset?: readonly [number, number];
}

export function tileOf(
  c: ViewCamera,
  whole: Pane,
  tile: { x: number; y: number; width: number; height: number },
): TileCamera {
  const height = (c.height * tile.height) / whole.height;
  if (c.projection === 'orthographic')
    return { ...c, height, target: unproject(c, whole, tile.x + tile.width / 2, tile.y + tile.height / 2) };
  const offset = [
    (tile.x + tile.width / 2 - whole.width / 2) / tile.width,
    (whole.height / 2 - tile.y - tile.height / 2) / tile.height,
  ] as const;
  return { ...c, height, lens: 2 * Math.atan((Math.tan(c.lens / 2) * tile.height) / whole.height), offset };
}
