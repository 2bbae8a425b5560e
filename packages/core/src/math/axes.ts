import type { Vec3 } from './vec3.ts';

/** Axes that points and directions are told in: right-handed, unit; the origin in model space, mm. */
export interface ReferenceSystem {
  origin: Vec3;
  x: Vec3;
  y: Vec3;
  z: Vec3;
}

export const MODEL_SYSTEM: ReferenceSystem = { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };
