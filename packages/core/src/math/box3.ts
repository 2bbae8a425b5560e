import { transformPoint, type Mat4 } from './mat4.ts';
import { add, length, scale, subtract, toVec3, type Vec3 } from './vec3.ts';

/** An axis-aligned box, mm. An empty box has min = +Infinity and max = −Infinity. */
export interface Box3 {
  readonly min: Vec3;
  readonly max: Vec3;
}

export const EMPTY_BOX: Box3 = {
  min: [Infinity, Infinity, Infinity],
  max: [-Infinity, -Infinity, -Infinity],
};

export const isEmptyBox = (b: Box3): boolean =>
  !(b.min[0] <= b.max[0] && b.min[1] <= b.max[1] && b.min[2] <= b.max[2]);

export const uniteBoxes = (a: Box3, b: Box3): Box3 => ({
  min: [Math.min(a.min[0], b.min[0]), Math.min(a.min[1], b.min[1]), Math.min(a.min[2], b.min[2])],
  max: [Math.max(a.max[0], b.max[0]), Math.max(a.max[1], b.max[1]), Math.max(a.max[2], b.max[2])],
});

/** The box of a flat xyz array. */
export function boxOfPoints(flat: ArrayLike<number>): Box3 {
  const min = [Infinity, Infinity, Infinity];
  const max = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < flat.length; i++) {
    const k = i % 3;
    if (flat[i] < min[k]) min[k] = flat[i];
    if (flat[i] > max[k]) max[k] = flat[i];
  }
  return { min: toVec3(min), max: toVec3(max) };
}

export function boxCorners(b: Box3): Vec3[] {
  const corners: Vec3[] = [];
  for (let i = 0; i < 8; i++)
    corners.push([i & 1 ? b.max[0] : b.min[0], i & 2 ? b.max[1] : b.min[1], i & 4 ? b.max[2] : b.min[2]]);
  return corners;
}

/** The axis-aligned box around a placed box: exact for turns by 90°, otherwise an upper bound. */
export function transformBox(m: Mat4, b: Box3): Box3 {
  return isEmptyBox(b) ? EMPTY_BOX : boxOfPoints(boxCorners(b).flatMap((c) => transformPoint(m, c)));
}

export const boxCentre = (b: Box3): Vec3 => scale(add(b.min, b.max), 0.5);
export const boxSize = (b: Box3): Vec3 => subtract(b.max, b.min);
export const boxDiagonal = (b: Box3): number => (isEmptyBox(b) ? 0 : length(boxSize(b)));

/** mm between two boxes; 0 when they meet. */
export const boxGap = (a: Box3, b: Box3): number =>
  Math.hypot(...[0, 1, 2].map((k) => Math.max(0, a.min[k] - b.max[k], b.min[k] - a.max[k])));
