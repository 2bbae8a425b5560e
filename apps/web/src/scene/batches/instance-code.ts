import { Vector4 } from 'three';
import type { Vec3 } from '@bathyscope/core/math';
import type { Appearance } from '../../workspace/mass/given-materials.ts';

/**
 * A share that stands beside a whole number in one component: 1 would be the next number, also in the card's
 * single precision.
 */
const BELOW_NEXT = 0.999;
export const OPACITY_SHARE = 0.99;

/** Which passes draw a component. */
export const SOLID = 0;
export const CLEAR = 1;
export const GHOST = 2;

/** How a component is lit as a whole. */
export const PICKED = 1;
export const HOVERED = 2;

export interface InstanceLook extends Appearance {
  colour: Vec3;
  /** Faces keep the colours that the file gives them singly. */
  ownFaceColours: boolean;
  drawnAs: number;
  style: number;
  opacity: number;
  /** Sections leave it whole. */
  whole: boolean;
}

/**
 * What the shaders know of a component, in its batch colour: its colour, with that of its material as twice a
 * whole number on the red (0: none; else 2 × tone + 2, and 1 more where its own goes first); and in the
 * fourth number whether faces keep their own colours (1), the class (2 ×), the style (8 ×), whether sections
 * leave it whole (512 ×), how it is lit (1024 ×), what its material looks like (4096 ×) and its
 * own opacity (the fraction).
 */
export function instanceCode({
  colour: [red, green, blue],
  ownFaceColours,
  drawnAs,
  style,
  opacity,
  whole,
  look,
  tone,
  colourless,
}: InstanceLook): Vector4 {
  const toned = tone < 0 ? 0 : 2 * tone + 2 + (colourless ? 0 : 1);
  return new Vector4(
    Math.min(red, BELOW_NEXT) + 2 * toned,
    green,
    blue,
    (ownFaceColours ? 1 : 0) +
      2 * drawnAs +
      8 * style +
      (whole ? 512 : 0) +
      4096 * look +
      OPACITY_SHARE * Math.min(1, Math.max(0, opacity)),
  );
}

/** The code of a component that is lit as well. */
export const litCode = (code: Vector4, lit: number): Vector4 =>
  lit ? new Vector4(code.x, code.y, code.z, code.w + 1024 * lit) : code;
