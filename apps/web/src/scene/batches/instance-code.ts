import { Vector4 } from 'three';
import type { Vec3 } from '@bathyscope/core';

/** Which passes draw a component. */
export const SOLID = 0;
export const CLEAR = 1;
export const GHOST = 2;

/** How a component is lit as a whole. */
export const PICKED = 1;
export const HOVERED = 2;

/**
 * What the shaders know of a component, in its batch colour: its colour, and in the fourth number whether faces keep
 * the colours that the file gives them singly (1), the class (2 ×), the style (8 ×), whether sections leave it
 * whole (512 ×), how it is lit (1024 ×), what its material looks like (4096 ×) and its own opacity (the fraction).
 */
export function instanceCode(
  colour: Vec3,
  ownFaceColours: boolean,
  drawnAs: number,
  style: number,
  opacity: number,
  whole = false,
  look = 0,
): Vector4 {
  return new Vector4(
    ...colour,
    (ownFaceColours ? 1 : 0) +
      2 * drawnAs +
      8 * style +
      (whole ? 512 : 0) +
      4096 * look +
      0.99 * Math.min(1, Math.max(0, opacity)) * (1 - 1e-6),
  );
}

/** The code of a component that is lit as well. */
export const litCode = (code: Vector4, lit: number): Vector4 => (lit ? new Vector4(code.x, code.y, code.z, code.w + 1024 * lit) : code);
