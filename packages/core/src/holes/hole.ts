import type { Accuracy } from '../geometry/accuracy.ts';
import { type Vec3 } from '../math/vec3.ts';

/** One cylindrical hole: all adjoining coaxial concave faces of equal radius that together go round. Part's own frame, mm. */
export interface Hole {
  faces: number[];
  diameter: number;
  /** Between the two outermost points of its wall along the axis. */
  depth: number;
  /** Middle of an end; for a blind hole the open end. */
  start: Vec3;
  /** Unit; from `start` into the hole. */
  axis: Vec3;
  ends: 'through' | 'blind' | 'closed';
  accuracy: Accuracy;
}
