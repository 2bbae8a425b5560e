import type { FaceFacts } from '../geometry/part-geometry.ts';
import { add, addScaled, dot, frameOf, length, normalize, scale, subtract, type Vec3 } from '../math/vec3.ts';

/** A surface that curves both ways and whose nearest point is known in closed form. */
export interface RoundSurface {
  /** mm from a point (x, y, z) to the surface, on either side. Allocates nothing. */
  distance(x: number, y: number, z: number): number;
  /** The nearest point of the surface, and its normal there away from the centre or the circle of the tube. */
  nearest(p: Vec3): { point: Vec3; normal: Vec3 };
}

/** @returns null for what is no sphere and no torus, or a torus that runs through itself */
export function roundSurface(face: FaceFacts): RoundSurface | null {
  if (face.surface === 'sphere') return sphere(face.origin!, face.radius!);
  if (face.surface === 'torus' && face.minorRadius! < face.radius!) return torus(face.origin!, face.axis!, face.radius!, face.minorRadius!);
  return null;
}

const sphere = (centre: Vec3, radius: number): RoundSurface => ({
  distance(x, y, z) {
    const [dx, dy, dz] = [x - centre[0], y - centre[1], z - centre[2]];
    return Math.abs(Math.sqrt(dx * dx + dy * dy + dz * dz) - radius);
  },
  nearest(p) {
    const normal = normalize(subtract(p, centre));
    return { point: addScaled(centre, normal, radius), normal };
  },
});

function torus(centre: Vec3, axis: Vec3, major: number, minor: number): RoundSurface {
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
      return { point: addScaled(ring, normal, minor), normal };
    },
  };
}
