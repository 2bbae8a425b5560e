import type { FaceFacts } from '../geometry/part-geometry.ts';
import { add, addScaled, dot, frameOf, length, normalize, scale, subtract, type Vec3 } from '../math/vec3.ts';

/**
 * A surface that triangles are compared with. u and v are about where on it a point is meant to be: who knows
 * without them does not look.
 */
export interface MeshedSurface {
  /** That it is of no known kind, and may turn between any two places. */
  free?: boolean;
  /** mm from a point (x, y, z) to the surface, on either side. Allocates nothing. */
  distance(x: number, y: number, z: number, u?: number, v?: number): number;
  /** The nearest point of the surface, its parameters, and a normal there that does not change sides. */
  nearest(p: Vec3, u?: number, v?: number): { point: Vec3; normal: Vec3; u: number; v: number };
}

/**
 * What curves both ways, and whose nearest point is known in closed form. @returns null for what is no sphere
 * and no torus, or a torus that runs through itself
 */
export function roundSurface(
  face: Pick<FaceFacts, 'surface' | 'origin' | 'axis' | 'radius' | 'minorRadius'>,
): MeshedSurface | null {
  if (face.surface === 'sphere') return sphere(face.origin!, face.radius!);
  if (face.surface === 'torus' && face.minorRadius! < face.radius!)
    return torus(face.origin!, face.axis!, face.radius!, face.minorRadius!);
  return null;
}

const sphere = (centre: Vec3, radius: number): MeshedSurface => ({
  distance(x, y, z) {
    const [dx, dy, dz] = [x - centre[0], y - centre[1], z - centre[2]];
    return Math.abs(Math.sqrt(dx * dx + dy * dy + dz * dz) - radius);
  },
  nearest(p) {
    const normal = normalize(subtract(p, centre));
    return { point: addScaled(centre, normal, radius), normal, u: 0, v: 0 };
  },
});

function torus(centre: Vec3, axis: Vec3, major: number, minor: number): MeshedSurface {
  return {
    distance(x, y, z) {
      const [dx, dy, dz] = [x - centre[0], y - centre[1], z - centre[2]];
      const h = dx * axis[0] + dy * axis[1] + dz * axis[2];
      const out = Math.sqrt(Math.max(0, dx * dx + dy * dy + dz * dz - h * h)) - major;
      return Math.abs(Math.sqrt(out * out + h * h) - minor);
    },
    nearest(p) {
      const from = subtract(p, centre);
      const flat = addScaled(from, axis, -dot(from, axis));
      const outward = length(flat) > 0 ? normalize(flat) : frameOf(axis).u;
      const ring = add(centre, scale(outward, major));
      const away = subtract(p, ring);
      const normal = length(away) > 0 ? normalize(away) : outward;
      return { point: addScaled(ring, normal, minor), normal, u: 0, v: 0 };
    },
  };
}
