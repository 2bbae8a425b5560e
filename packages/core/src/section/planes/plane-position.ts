import { boxCorners, type Box3 } from '../../math/box3.ts';
import { add, dot, scale, subtract, type Vec3 } from '../../math/vec3.ts';
import { MODEL_SYSTEM, type ReferenceSystem } from '../../math/axes.ts';
import { ALONG_AXIS } from '../../tolerances.ts';
import type { SectionPlane } from './section-plane.ts';

type Placed = Pick<SectionPlane, 'origin' | 'normal' | 'offset'>;

/** Where a plane is, in one figure. */
export interface PlanePosition {
  /**
   * The axis it lies across, of the model or of a reference system, when it does: then the figure is the
   * coordinate there, else the offset from where the plane was taken from.
   */
  axis: 0 | 1 | 2 | null;
  /** mm */
  at: number;
}

const axesOf = ({ x, y, z }: ReferenceSystem): readonly Vec3[] => [x, y, z];

const axisAcross = ({ normal }: Placed, system: ReferenceSystem): 0 | 1 | 2 | null => {
  const k = axesOf(system).findIndex((a) => Math.abs(Math.abs(dot(normal, a)) - 1) < ALONG_AXIS);
  return k < 0 ? null : (k as 0 | 1 | 2);
};

export function planePosition(plane: Placed, system: ReferenceSystem = MODEL_SYSTEM): PlanePosition {
  const axis = axisAcross(plane, system);
  if (axis === null) return { axis, at: plane.offset };
  const along = axesOf(system)[axis];
  return {
    axis,
    at: dot(subtract(plane.origin, system.origin), along) + dot(plane.normal, along) * plane.offset,
  };
}

/** The offset at which a plane has this position (mm). */
export function offsetAt(plane: Placed, at: number, system: ReferenceSystem = MODEL_SYSTEM): number {
  const axis = axisAcross(plane, system);
  if (axis === null) return at;
  const along = axesOf(system)[axis];
  return (at - dot(subtract(plane.origin, system.origin), along)) / dot(plane.normal, along);
}

/**
 * Where a plane meets the edges of a box: the corners, in no order, of what it cuts out of it.
 * Empty when it passes by.
 */
export function planeInBox({ origin, normal, offset }: Placed, box: Box3): Vec3[] {
  const corners = boxCorners(box);
  const height = corners.map((c) => dot(subtract(c, origin), normal) - offset);
  return corners.flatMap((a, i) =>
    [1, 2, 4]
      .filter((bit) => !(i & bit) && height[i] < 0 !== height[i | bit] < 0)
      .map((bit) => add(a, scale(subtract(corners[i | bit], a), height[i] / (height[i] - height[i | bit])))),
  );
}
