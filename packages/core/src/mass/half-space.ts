import type { Vec3 } from '../math/vec3.ts';

/** What is kept of space: normal·p + constant ≥ 0. */
export interface HalfSpace {
  normal: Vec3;
  constant: number;
}
