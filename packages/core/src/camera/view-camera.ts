import { lookFrom, multiplyQuaternions, rotate, rotationAbout, slerp, unitQuaternion, type Quaternion } from '../math/quaternion.ts';
import { add, addScaled, dot, scale, subtract, type Vec3 } from '../math/vec3.ts';

/** An orthographic view: where it looks, how it is turned, how much it shows. Plain data, mm. */
export interface ViewCamera {
  /** The point in the middle of the pane. */
  target: Vec3;
  /** Turns the view's axes (right, up, towards the eye) into the model's. */
  orientation: Quaternion;
  /** Height of the visible field. */
  height: number;
}

export interface Pane {
  /** px */
  width: number;
  height: number;
}

/** Share of the pane that stays free on each side when a model is fitted. */
export const FIT_MARGIN = 0.06;

/** mm. Views are not zoomed beyond what single precision can show. */
export const MIN_HEIGHT = 1e-3;
export const MAX_HEIGHT = 1e7;

export const viewRight = (c: ViewCamera): Vec3 => rotate(c.orientation, [1, 0, 0]);
export const viewUp = (c: ViewCamera): Vec3 => rotate(c.orientation, [0, 1, 0]);
/** Unit vector from the model towards the eye. */
export const viewBack = (c: ViewCamera): Vec3 => rotate(c.orientation, [0, 0, 1]);

/** mm of the model that one pixel covers. */
export const pixelSize = (c: ViewCamera, pane: Pane): number => c.height / pane.height;

/** Screen position of a point in px from the pane's top left, and its depth towards the eye in mm. */
export function project(c: ViewCamera, pane: Pane, p: Vec3): { x: number; y: number; depth: number } {
  const d = subtract(p, c.target);
  const size = pixelSize(c, pane);
  return { x: pane.width / 2 + dot(d, viewRight(c)) / size, y: pane.height / 2 - dot(d, viewUp(c)) / size, depth: dot(d, viewBack(c)) };
}

/** The point of the target's plane under a pixel. */
export function unproject(c: ViewCamera, pane: Pane, x: number, y: number): Vec3 {
  const size = pixelSize(c, pane);
  return addScaled(addScaled(c.target, viewRight(c), (x - pane.width / 2) * size), viewUp(c), (pane.height / 2 - y) * size);
}

/** Moves the model with the hand by a number of pixels. */
export function pan(c: ViewCamera, pane: Pane, dx: number, dy: number): ViewCamera {
  const size = pixelSize(c, pane);
  return { ...c, target: addScaled(addScaled(c.target, viewRight(c), -dx * size), viewUp(c), dy * size) };
}

/** Makes everything `factor` times larger, while the point under the given pixel stays where it is. */
export function zoomAt(c: ViewCamera, pane: Pane, factor: number, x: number, y: number): ViewCamera {
  const height = Math.min(MAX_HEIGHT, Math.max(MIN_HEIGHT, c.height / factor));
  const under = unproject(c, pane, x, y);
  return { ...c, height, target: add(under, scale(subtract(c.target, under), height / c.height)) };
}

/** Turns the view about a fixed point of the model, which keeps its place on the screen. */
export function turnAbout(c: ViewCamera, pivot: Vec3, turn: Quaternion): ViewCamera {
  return {
    ...c,
    orientation: unitQuaternion(multiplyQuaternions(turn, c.orientation)),
    target: add(pivot, rotate(turn, subtract(c.target, pivot))),
  };
}

/**
 * Orbit that keeps the model upright: sideways about the up axis, up and down about the screen's horizontal, never
 * past the poles. Angles in rad; positive `yaw` turns the model to the right, positive `pitch` tips its top to the eye.
 */
export function orbitTurntable(c: ViewCamera, pivot: Vec3, yaw: number, pitch: number, up: Vec3 = [0, 0, 1]): ViewCamera {
  const turned = turnAbout(c, pivot, rotationAbout(up, -yaw));
  const elevation = Math.asin(Math.max(-1, Math.min(1, dot(viewBack(turned), up))));
  const upright = dot(viewUp(turned), up) >= -1e-9 ? 1 : -1;
  const limit = Math.PI / 2;
  const wanted = Math.max(-limit, Math.min(limit, elevation + pitch * upright));
  return turnAbout(turned, pivot, rotationAbout(viewRight(turned), -(wanted - elevation) * upright));
}

/** Free orbit: about the screen's own axes, with no up. */
export function orbitFree(c: ViewCamera, pivot: Vec3, yaw: number, pitch: number): ViewCamera {
  const turned = turnAbout(c, pivot, rotationAbout(viewUp(c), -yaw));
  return turnAbout(turned, pivot, rotationAbout(viewRight(turned), -pitch));
}

/** The same direction, moved and scaled so that all points lie within the pane less the margin. Unchanged for no points. */
export function fitPoints(c: ViewCamera, pane: Pane, points: Iterable<Vec3>, margin = FIT_MARGIN): ViewCamera {
  const [right, up, back] = [viewRight(c), viewUp(c), viewBack(c)];
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (const p of points) {
    const local = [dot(p, right), dot(p, up), dot(p, back)];
    for (let k = 0; k < 3; k++) {
      if (local[k] < low[k]) low[k] = local[k];
      if (local[k] > high[k]) high[k] = local[k];
    }
  }
  if (!(low[0] <= high[0])) return c;
  const free = 1 - 2 * margin;
  const needed = Math.max((high[1] - low[1]) / free, ((high[0] - low[0]) / free) * (pane.height / pane.width));
  const [a, b, d] = [0, 1, 2].map((k) => (low[k] + high[k]) / 2);
  return {
    ...c,
    target: addScaled(addScaled(scale(right, a), up, b), back, d),
    height: Math.max(needed, MIN_HEIGHT * 10),
  };
}

/** Isometric (ISO 5456-3): elevation arctan(1/√2) = 35.264°, from the front, right and top; Z up. */
export const HOME_DIRECTION: Vec3 = [1, -1, 1];

export const homeOrientation = (up: Vec3 = [0, 0, 1]): Quaternion => lookFrom(HOME_DIRECTION, up);

/** A view part of the way from one to another: the shortest turn, even steps of scale. t from 0 to 1. */
export function betweenViews(a: ViewCamera, b: ViewCamera, t: number): ViewCamera {
  if (t >= 1) return b;
  return {
    target: addScaled(a.target, subtract(b.target, a.target), t),
    orientation: slerp(a.orientation, b.orientation, t),
    height: a.height * (b.height / a.height) ** t,
  };
}
