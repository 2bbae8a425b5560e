import { boxCorners, type Box3 } from '../../math/box3.ts';
import { add, dot, scale, subtract, type Vec3 } from '../../math/vec3.ts';
import { ALONG_AXIS } from '../../tolerances.ts';
import type { SectionPlane } from './section-plane.ts';

type Placed = Pick<SectionPlane, 'origin' | 'normal' | 'offset'>;

/** Where a plane is, in one figure. */
export interface PlanePosition {
  /** The model axis it lies across, when it does: then the figure is the coordinate there, else the offset from where the plane was taken from. */
  axis: 0 | 1 | 2 | null;
  /** mm */
  at: number;
}

const axisAcross = ({ normal }: Placed): 0 | 1 | 2 | null => {
  const k = normal.findIndex((x) => Math.abs(Math.abs(x) - 1) < ALONG_AXIS);
  return k < 0 ? null : (k as 0 | 1 | 2);
};

export function planePosition(plane: Placed): PlanePosition {
  const axis = axisAcross(plane);
  return { axis, at: axis === null ? plane.offset : plane.origin[axis] + plane.normal[axis] * plane.offset };
}

/** The offset at which a plane has this position (mm). */
export function offsetAt(plane: Placed, at: number): number {
  const axis = axisAcross(plane);
  return axis === null ? at : (at - plane.origin[axis]) / plane.normal[axis];
}

/** Where a plane meets the edges of a box: the corners, in no order, of what it cuts out of it. Empty when it passes by. */
export function planeInBox({ origin, normal, offset }: Placed, box: Box3): Vec3[] {
  const corners = boxCorners(box);
  const height = corners.map((c) => dot(subtract(c, origin), normal) - offset);
  return corners.flatMap((a, i) =>
    [1, 2, 4]
      .filter((bit) => !(i & bit) && height[i] < 0 !== height[i | bit] < 0)
      .map((bit) => add(a, scale(subtract(corners[i | bit], a), height[i] / (height[i] - height[i | bit])))),
  );
}
