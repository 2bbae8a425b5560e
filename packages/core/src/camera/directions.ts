import { ROUNDING, SAME_ORIENTATION, TINY } from '../tolerances.ts';
import {
  lookFrom,
  multiplyQuaternions,
  quaternionFromAxes,
  rotate,
  rotationAbout,
  unitQuaternion,
  type Quaternion,
} from '../math/quaternion.ts';
import { add, cross, dot, normalize, scale, type Vec3 } from '../math/vec3.ts';
import { ON_PIP } from '../tolerances.ts';

/** Which axis of the model points up; set per model. */
export type UpAxis = 'y' | 'z';

/** Where right, front (towards an eye that looks at the front) and up of a model point. */
export interface ModelFrame {
  right: Vec3;
  front: Vec3;
  up: Vec3;
}

/** Z up: the front looks along +Y. Y up: the front looks along −Z. Common practice for either axis. */
export const FRAMES: Record<UpAxis, ModelFrame> = {
  z: { right: [1, 0, 0], front: [0, -1, 0], up: [0, 0, 1] },
  y: { right: [1, 0, 0], front: [0, 0, 1], up: [0, 1, 0] },
};

/** One of the 26 directions of the bearing globe: −1, 0 or 1 along right, front and up. */
export type Pip = readonly [number, number, number];

export const PIPS: readonly Pip[] = [-1, 0, 1]
  .flatMap((x) => [-1, 0, 1].flatMap((y) => [-1, 0, 1].map((z): Pip => [x, y, z])))
  .filter((p) => p.some((k) => k !== 0));

export const pipKind = (p: Pip): 'face' | 'edge' | 'corner' =>
  (['face', 'edge', 'corner'] as const)[p.filter((k) => k !== 0).length - 1];

/** “top”, “front right”, “front right top”. */
export function pipName(p: Pip): string {
  return [
    p[1] && (p[1] > 0 ? 'front' : 'back'),
    p[0] && (p[0] > 0 ? 'right' : 'left'),
    p[2] && (p[2] > 0 ? 'top' : 'bottom'),
  ]
    .filter(Boolean)
    .join(' ');
}

/** Unit vector from the model to the eye. */
export const pipDirection = (p: Pip, frame: ModelFrame): Vec3 =>
  normalize(add(add(scale(frame.right, p[0]), scale(frame.front, p[1])), scale(frame.up, p[2])));

/**
 * The eye at a pip, upright; the top is seen with the front below it and the bottom with the front above it,
 * as unfolded projections are.
 */
export function pipOrientation(p: Pip, frame: ModelFrame): Quaternion {
  const level = p[0] === 0 && p[1] === 0 ? scale(frame.front, -p[2]) : frame.up;
  return lookFrom(pipDirection(p, frame), level);
}

/** The frame of somebody who stands behind the model. */
export const behind = (frame: ModelFrame): ModelFrame => ({
  right: scale(frame.right, -1),
  front: scale(frame.front, -1),
  up: frame.up,
});

/** The view pad by the key's place: an unfolded projection, the corners its isometrics. */
export const VIEW_PAD: Record<string, Pip> = {
  KeyQ: [-1, 1, 1],
  KeyW: [0, 0, 1],
  KeyE: [1, 1, 1],
  KeyA: [-1, 0, 0],
  KeyS: [0, 1, 0],
  KeyD: [1, 0, 0],
  KeyZ: [-1, 1, -1],
  KeyX: [0, 0, -1],
  KeyC: [1, 1, -1],
};

/**
 * Dimetric axonometry of ISO 5456-3:1996, 5.3: two axes at full scale, the receding one at half. With the sum
 * of the squared foreshortenings 2 they are √(8/9) and √(2/9), so the direction to the eye is (1/3, √7/3,
 * 1/3): the drawn axes lie 7.2° and 41.4° off the horizontal (the standard rounds to 7° and 42°).
 */
export const DIMETRIC: Vec3 = [1 / 3, Math.sqrt(7) / 3, 1 / 3];

/** Our own trimetric view: the eye 35° to the right of the front and 25° above. */
export const TRIMETRIC_AZIMUTH = (35 * Math.PI) / 180;
export const TRIMETRIC_ELEVATION = (25 * Math.PI) / 180;
export const TRIMETRIC: Vec3 = [
  Math.sin(TRIMETRIC_AZIMUTH) * Math.cos(TRIMETRIC_ELEVATION),
  Math.cos(TRIMETRIC_AZIMUTH) * Math.cos(TRIMETRIC_ELEVATION),
  Math.sin(TRIMETRIC_ELEVATION),
];

/** The eye in a direction given along right, front and up. */
export const frameOrientation = (d: Vec3, frame: ModelFrame): Quaternion =>
  lookFrom(
    normalize(add(add(scale(frame.right, d[0]), scale(frame.front, d[1])), scale(frame.up, d[2]))),
    frame.up,
  );

/**
 * Isometric from the front, right and top (ISO 5456-3): elevation arctan(1/√2) =
 * 35.264°, foreshortening √(2/3).
 */
export const HOME_PIP: Pip = [1, 1, 1];

/** The pip from which a view looks exactly, whatever its roll, or null. */
export function pipOf(orientation: Quaternion, frame: ModelFrame): Pip | null {
  const back = rotate(orientation, [0, 0, 1]);
  return PIPS.find((p) => Math.acos(Math.min(1, dot(back, pipDirection(p, frame)))) < ON_PIP) ?? null;
}

/** rad: less is not told. */
const TOLD_ROLL = Math.PI / 360;

/** How far a view from one of the 26 is rolled from upright, rad from 0 to π. */
export function rollOf(orientation: Quaternion, pip: Pip, frame: ModelFrame): number {
  const [up, upright] = [orientation, pipOrientation(pip, frame)].map((q) => rotate(q, [0, 1, 0]));
  return Math.acos(Math.max(-1, Math.min(1, dot(up, upright))));
}

/** The name of the view when it is exactly one of the 26, and how far it is rolled. */
export function viewName(orientation: Quaternion, frame: ModelFrame): string | null {
  const pip = pipOf(orientation, frame);
  if (!pip) return null;
  const roll = rollOf(orientation, pip, frame);
  return roll < TOLD_ROLL ? pipName(pip) : `${pipName(pip)}, rolled ${Math.round((roll * 180) / Math.PI)}°`;
}

/**
 * The next pip in a direction of the screen: the view turned by 45° about the screen's axis, set down on the
 * nearest pip other than where it is.
 * @param across −1, 0 or 1: the eye goes left or right; @param along the same, down or up
 */
export function neighbourPip(
  orientation: Quaternion,
  frame: ModelFrame,
  across: number,
  along: number,
): { pip: Pip; orientation: Quaternion } {
  const [right, up] = [rotate(orientation, [1, 0, 0]), rotate(orientation, [0, 1, 0])];
  const axis = normalize(add(scale(up, across), scale(right, -along)));
  const turned = unitQuaternion(multiplyQuaternions(rotationAbout(axis, Math.PI / 4), orientation));
  const here = pipOf(orientation, frame);
  const aim = rotate(turned, [0, 0, 1]);
  const pip = PIPS.filter((p) => p !== here).reduce((best, p) =>
    dot(pipDirection(p, frame), aim) > dot(pipDirection(best, frame), aim) ? p : best,
  );
  return {
    pip,
    orientation:
      pip[0] === 0 && pip[1] === 0
        ? nearestRoll(pipDirection(pip, frame), turned, frame)
        : pipOrientation(pip, frame),
  };
}

/** Looking straight up or down there are four upright ways; the one with the least turn. */
function nearestRoll(direction: Vec3, from: Quaternion, frame: ModelFrame): Quaternion {
  const up = rotate(from, [0, 1, 0]);
  const levels = [frame.front, frame.right].flatMap((v) => [v, scale(v, -1)]);
  const level = levels.reduce((best, v) => (dot(v, up) > dot(best, up) ? v : best));
  return lookFrom(direction, level);
}

/** The orientation turned by a quarter about one of the screen's axes. */
export function quarterTurn(
  orientation: Quaternion,
  about: 'right' | 'up' | 'back',
  sign: 1 | -1,
): Quaternion {
  const axis = rotate(orientation, about === 'right' ? [1, 0, 0] : about === 'up' ? [0, 1, 0] : [0, 0, 1]);
  return unitQuaternion(multiplyQuaternions(rotationAbout(axis, (sign * Math.PI) / 2), orientation));
}

/**
 * The orientation that looks along −`direction` with as little turn about the line of
 * sight as upright allows.
 */
export function squareOn(direction: Vec3, frame: ModelFrame): Quaternion {
  const d = normalize(direction);
  const pole = Math.abs(dot(d, frame.up)) > 1 - ROUNDING;
  return pole ? lookFrom(d, scale(frame.front, -Math.sign(dot(d, frame.up)))) : lookFrom(d, frame.up);
}

/** Square to an edge, which then lies level on the screen; seen from the side nearest to the present eye. */
export function acrossEdge(edge: Vec3, eye: Vec3): Quaternion {
  const x = normalize(edge);
  const sideways = add(eye, scale(x, -dot(eye, x)));
  const z =
    dot(sideways, sideways) > TINY ** 2
      ? normalize(sideways)
      : normalize(cross(x, Math.abs(x[2]) < 0.9 ? [0, 0, 1] : [0, 1, 0]));
  return quaternionFromAxes(x, cross(z, x), z);
}

export const homeOrientationOf = (up: UpAxis): Quaternion => pipOrientation(HOME_PIP, FRAMES[up]);

/** Whether two orientations are one within rounding; a quaternion and its negative are the same turn. */
export const sameOrientation = (a: Quaternion, b: Quaternion): boolean =>
  1 - Math.abs(a[0] * b[0] + a[1] * b[1] + a[2] * b[2] + a[3] * b[3]) < SAME_ORIENTATION;
