import { addScaled, distance, dot, subtract, type Vec3 } from './vec3.ts';

/** mm: from a point to the segment between two others. */
export function distanceToSegment(p: Vec3, a: Vec3, b: Vec3): number {
  const along = subtract(b, a);
  const size = dot(along, along);
  const share = size > 0 ? Math.min(1, Math.max(0, dot(subtract(p, a), along) / size)) : 0;
  return distance(p, addScaled(a, along, share));
}
