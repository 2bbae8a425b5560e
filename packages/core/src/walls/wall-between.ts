import type { FaceFacts } from '../geometry/part-geometry.ts';
import { cross, dot, length, subtract } from '../math/vec3.ts';
import { COAXIAL_EXACTLY, PARALLEL_PLANES } from '../tolerances.ts';

/**
 * mm: the wall between two faces of one part where it is the same all over: parallel planes, or cylinders
 * about one axis; null of others.
 */
export function wallBetween(a: FaceFacts, b: FaceFacts): number | null {
  if (
    a.accuracy.kind !== 'exact' ||
    b.accuracy.kind !== 'exact' ||
    !a.axis ||
    !b.axis ||
    !a.origin ||
    !b.origin
  )
    return null;
  if (length(cross(a.axis, b.axis)) > PARALLEL_PLANES) return null;
  const between = subtract(b.origin, a.origin);
  if (a.surface === 'plane' && b.surface === 'plane') return Math.abs(dot(between, a.axis));
  if (a.surface !== 'cylinder' || b.surface !== 'cylinder' || a === b) return null;
  return length(cross(between, a.axis)) <= COAXIAL_EXACTLY ? Math.abs(a.radius! - b.radius!) : null;
}
