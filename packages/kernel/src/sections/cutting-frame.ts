import {
  dot,
  transformDirection,
  transposed,
  type Mat4,
  type Point2,
  type Vec3,
} from '@bathyscope/core/math';
import { planeFrame, planeInPart, type CutPlane } from '@bathyscope/core/section';

/**
 * A plane in a part's own frame, and the axes that its cut is told in: x = u · p +
 * shift[0], y = v · p + shift[1].
 */
export interface CuttingFrame {
  /** Points p with normal · p = constant; unit normal, mm. */
  normal: Vec3;
  constant: number;
  /** Unit, in the plane; u × v may point either way. */
  u: Vec3;
  v: Vec3;
  shift: Point2;
}

/** The axes of core's `planeFrame` for a plane of the model, in the frame of a part that is placed there. */
export function cuttingFrame(plane: CutPlane, placement: Mat4): CuttingFrame {
  const { u, v } = planeFrame(plane);
  const back = transposed(placement);
  const at: Vec3 = [placement[12], placement[13], placement[14]];
  return {
    ...planeInPart(plane, placement),
    u: transformDirection(back, u),
    v: transformDirection(back, v),
    shift: [dot(u, at), dot(v, at)],
  };
}

/** Why a shape has no exact section; a sentence's end. */
export class NoSection extends Error {}
