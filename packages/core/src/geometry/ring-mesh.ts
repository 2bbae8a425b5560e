import {
  add,
  addScaled,
  cross,
  dot,
  frameOf,
  length,
  normalize,
  scale,
  subtract,
  type Vec3,
} from '../math/vec3.ts';
import { COAXIAL_RELATIVE, PARALLEL_ANGLE, FULL_TURN } from '../tolerances.ts';
import type { EdgeFacts } from './part-geometry.ts';

export interface RingMesh {
  positions: Float64Array;
  normals: Float32Array;
  indices: Uint32Array;
  /** Where its points are in the parameters of their surface. */
  uv?: Float64Array;
}

/**
 * Triangles of the cone, cylinder or annulus between two coaxial full circles, with outward normals taken as
 * pointing away from the axis. For faces that the kernel's mesher leaves empty.
 * @param step rad, the largest step between points along the circles
 * @returns null when the edges are not two coaxial full circles
 */
export function ringMesh(a: EdgeFacts, b: EdgeFacts, step: number): RingMesh | null {
  const full = (e: EdgeFacts) =>
    e.curve === 'circle' && e.centre !== undefined && (e.arcAngle ?? 0) > FULL_TURN;
  if (!full(a) || !full(b)) return null;
  const axis = a.axis!;
  const between = subtract(b.centre!, a.centre!);
  const size = Math.max(a.radius!, b.radius!);
  if (length(cross(axis, b.axis!)) > PARALLEL_ANGLE || length(cross(between, axis)) > size * COAXIAL_RELATIVE)
    return null;

  const { u, v } = frameOf(axis);
  const count = Math.ceil((2 * Math.PI) / step);
  const rise = dot(between, axis);
  const positions: number[] = [];
  const normals: number[] = [];
  const indices: number[] = [];
  for (let i = 0; i < count; i++) {
    const angle = (2 * Math.PI * i) / count;
    const radial: Vec3 = add(scale(u, Math.cos(angle)), scale(v, Math.sin(angle)));
    const normal = normalize(
      addScaled(scale(radial, Math.abs(rise)), axis, (a.radius! - b.radius!) * Math.sign(rise || 1)),
    );
    positions.push(...addScaled(a.centre!, radial, a.radius!), ...addScaled(b.centre!, radial, b.radius!));
    normals.push(...normal, ...normal);
    const [p, q] = [2 * i, 2 * ((i + 1) % count)];
    if (rise >= 0) indices.push(p, q, q + 1, p, q + 1, p + 1);
    else indices.push(p, q + 1, q, p, p + 1, q + 1);
  }
  return {
    positions: Float64Array.from(positions),
    normals: Float32Array.from(normals),
    indices: Uint32Array.from(indices),
  };
}
