import { NEAREST_FIELD } from '../tolerances.ts';
import { ROUNDING } from '../tolerances.ts';
import {
  multiplyQuaternions,
  rotate,
  rotationAbout,
  unitQuaternion,
  type Quaternion,
} from '../math/quaternion.ts';
import { add, addScaled, cross, dot, length, normalize, scale, subtract, type Vec3 } from '../math/vec3.ts';
import {
  eyeDistance,
  magnification,
  MAX_HEIGHT,
  MAX_LENS,
  MIN_HEIGHT,
  MIN_LENS,
  pixelSizeAt,
  project,
  unproject,
  viewBack,
  viewRight,
  viewUp,
  type Pane,
  type Projection,
  type ViewCamera,
} from './view-camera.ts';
import { AT_THE_POLE } from '../tolerances.ts';

/**
 * Moves the view by whole pixels of the plane through `held`, so that this point of
 * the model follows the hand.
 */
export function pan(c: ViewCamera, pane: Pane, dx: number, dy: number, held: Vec3 = c.target): ViewCamera {
  const size = pixelSizeAt(c, pane, held);
  return { ...c, target: addScaled(addScaled(c.target, viewRight(c), -dx * size), viewUp(c), dy * size) };
}

/**
 * The same picture, its target moved along the line of sight to the depth of a point; unchanged when that
 * lies behind the eye.
 */
export function retarget(c: ViewCamera, point: Vec3): ViewCamera {
  const back = viewBack(c);
  const depth = dot(subtract(point, c.target), back);
  const m = magnification(c, depth);
  if (!(m > 0) || !Number.isFinite(m)) return c;
  return { ...c, target: addScaled(c.target, back, depth), height: c.height / m };
}

/**
 * Makes everything `factor` times larger about a point of the model, which keeps its place on the screen. In
 * perspective the eye moves towards the point and never reaches it.
 */
export function zoomAbout(c: ViewCamera, anchor: Vec3, factor: number): ViewCamera {
  const height = clampHeight(c.height / factor);
  return { ...c, height, target: add(anchor, scale(subtract(c.target, anchor), height / c.height)) };
}

const clampHeight = (height: number): number => Math.min(MAX_HEIGHT, Math.max(MIN_HEIGHT, height));

/**
 * Heights of the field between which looking at a model has sense, mm. @param size of the
 * model: the diagonal of its box
 */
export const zoomLimits = (size: number): { min: number; max: number } => ({
  min: Math.max(MIN_HEIGHT, NEAREST_FIELD * size),
  max: Math.min(MAX_HEIGHT, FARTHEST * Math.max(size, MIN_HEIGHT)),
});

/** Times the model's size. */
const FARTHEST = 200;

/**
 * Whether making all so many times larger goes on beyond what has sense; what lies
 * beyond already may come back.
 */
export function isBeyond(
  height: number,
  factor: number,
  { min, max }: { min: number; max: number },
): boolean {
  const next = height / factor;
  return factor > 1 ? next < min && next < height : factor < 1 && next > max;
}

/** As `zoomAbout`, about the point of the target's plane under a pixel. */
export const zoomAt = (c: ViewCamera, pane: Pane, factor: number, x: number, y: number): ViewCamera =>
  zoomAbout(c, unproject(c, pane, x, y), factor);

/** Fills the pane with a rectangle of it (px), whose middle becomes the middle of the view. */
export function zoomWindow(
  c: ViewCamera,
  pane: Pane,
  box: { x: number; y: number; width: number; height: number },
): ViewCamera {
  const factor = Math.min(pane.width / Math.max(1, box.width), pane.height / Math.max(1, box.height));
  const centred = { ...c, target: unproject(c, pane, box.x + box.width / 2, box.y + box.height / 2) };
  return { ...centred, height: clampHeight(c.height / factor) };
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
 * Orbit that keeps the model upright: sideways about the up axis, up and down about the horizontal, never
 * past the poles. A view that is rolled stays so. Angles in rad; positive `yaw` turns the model to the right,
 * positive `pitch` tips its top to the eye.
 */
export function orbitTurntable(
  c: ViewCamera,
  pivot: Vec3,
  yaw: number,
  pitch: number,
  up: Vec3 = [0, 0, 1],
): ViewCamera {
  const upright = dot(viewUp(c), up) >= -ROUNDING ? 1 : -1;
  const turned = turnAbout(c, pivot, rotationAbout(up, -yaw * upright));
  const back = viewBack(turned);
  const level = cross(up, back);
  const horizontal = length(level) > AT_THE_POLE ? normalize(level) : scale(viewRight(turned), upright);
  const elevation = Math.atan2(dot(back, up), length(level));
  const wanted = Math.max(-Math.PI / 2, Math.min(Math.PI / 2, elevation + pitch * upright));
  return turnAbout(turned, pivot, rotationAbout(horizontal, elevation - wanted));
}

/** Free orbit: about the screen's own axes, with no up. */
export function orbitFree(c: ViewCamera, pivot: Vec3, yaw: number, pitch: number): ViewCamera {
  const turned = turnAbout(c, pivot, rotationAbout(viewUp(c), -yaw));
  return turnAbout(turned, pivot, rotationAbout(viewRight(turned), -pitch));
}

/** Rolls the picture about the line of sight through the pivot; positive turns the model anticlockwise. */
export const roll = (c: ViewCamera, pivot: Vec3, angle: number): ViewCamera =>
  turnAbout(c, pivot, rotationAbout(viewBack(c), -angle));

/** An axis the model is turned about: a point on it and a unit direction. */
export interface Hinge {
  origin: Vec3;
  axis: Vec3;
}

/** Seen under less than this share of its length, a hinge is turned by going round it on the screen. */
const END_ON = 0.3;

/**
 * The turn about a hinge, in rad, for a hand that moved from one pixel to another: square to the hinge as
 * seen, so that what lies in front follows the hand; around it where it is seen end on.
 * @param gain rad a pixel
 */
export function hingeAngle(
  c: ViewCamera,
  pane: Pane,
  hinge: Hinge,
  from: { x: number; y: number },
  to: { x: number; y: number },
  gain: number,
): number {
  const across = [dot(hinge.axis, viewRight(c)), dot(hinge.axis, viewUp(c))];
  const seen = Math.hypot(across[0], across[1]);
  if (seen < END_ON) {
    const centre = project(c, pane, hinge.origin);
    const angle = (p: { x: number; y: number }) => Math.atan2(centre.y - p.y, p.x - centre.x);
    const turned = angle(to) - angle(from);
    const shortest = turned - 2 * Math.PI * Math.round(turned / (2 * Math.PI));
    return shortest * Math.sign(dot(hinge.axis, viewBack(c)));
  }
  // A turn by +a about the hinge moves the side facing the eye along axis × back: (ay,
  // −ax) along right and up.
  return (((to.x - from.x) * across[1] + (to.y - from.y) * across[0]) / seen) * gain;
}

/** Turns the model by an angle (rad, right-handed) about a hinge. */
export const turnAboutHinge = (c: ViewCamera, hinge: Hinge, angle: number): ViewCamera =>
  turnAbout(c, hinge.origin, rotationAbout(hinge.axis, -angle));

/** The same view in another projection: what is at the depth of the pivot keeps its size. */
export function withProjection(c: ViewCamera, projection: Projection, pivot: Vec3): ViewCamera {
  return c.projection === projection ? c : { ...retarget(c, pivot), projection };
}

/** The same view through another lens (rad): what is in the plane of the target keeps its size. */
export const withLens = (c: ViewCamera, lens: number): ViewCamera => ({
  ...c,
  lens: Math.max(MIN_LENS, Math.min(MAX_LENS, lens)),
});

/** Whether a point lies behind the eye, or so near that nothing could be turned about it in sight. */
export const isBehindEye = (c: ViewCamera, p: Vec3): boolean =>
  c.projection === 'perspective' && dot(subtract(p, c.target), viewBack(c)) > 0.98 * eyeDistance(c);

/** Rates of a six-axis hand controller: slides in pane heights, twists in rad; per second. */
export interface SixRates {
  right: number;
  up: number;
  nearer: number;
  pitch: number;
  yaw: number;
  roll: number;
}

export const STILL: SixRates = Object.freeze({ right: 0, up: 0, nearer: 0, pitch: 0, yaw: 0, roll: 0 });

/**
 * The view after all six motions have gone on at once for `seconds`. Moves the model, as if
 * it were held by the stick.
 */
export function sixAxisStep(c: ViewCamera, pivot: Vec3, rates: SixRates, seconds: number): ViewCamera {
  const moved = {
    ...c,
    target: addScaled(
      addScaled(c.target, viewRight(c), -rates.right * c.height * seconds),
      viewUp(c),
      -rates.up * c.height * seconds,
    ),
  };
  const nearer = zoomAbout(moved, pivot, Math.exp(rates.nearer * seconds));
  // One turn about the axis that the three rates make together.
  const spin = add(
    add(scale(viewRight(c), rates.pitch), scale(viewUp(c), rates.yaw)),
    scale(viewBack(c), rates.roll),
  );
  const speed = length(spin);
  return speed === 0 ? nearer : turnAbout(nearer, pivot, rotationAbout(normalize(spin), -speed * seconds));
}
