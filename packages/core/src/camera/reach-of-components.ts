import type { PartGeometry } from '../geometry/part-geometry.ts';
import { boxCorners, transformBox } from '../math/box3.ts';
import type { Mat4 } from '../math/mat4.ts';
import { dot, type Vec3 } from '../math/vec3.ts';
import type { Support } from './fit-view.ts';

interface Placed {
  corners: Vec3[];
  placement: Mat4;
  geometry: PartGeometry;
}

/**
 * How far placed parts reach in a direction, to the last vertex of their meshes. Boxes are asked first, and
 * only the meshes whose box reaches further than the best so far: of thousands of components a
 * handful is gone through.
 */
export function reachOfComponents(
  components: readonly { placement: Mat4; geometry: PartGeometry }[],
): Support {
  const placed: Placed[] = components.map((c) => ({
    ...c,
    corners: boxCorners(transformBox(c.placement, c.geometry.box)),
  }));
  return (direction) => {
    const bounded = placed
      .map((p) => ({ p, bound: Math.max(...p.corners.map((c) => dot(c, direction))) }))
      .sort((a, b) => b.bound - a.bound);
    let best = -Infinity;
    for (const { p, bound } of bounded) {
      if (bound <= best) break;
      best = Math.max(best, meshReach(p, direction));
    }
    return best;
  };
}

/** The direction is taken into the part's frame once, so that each vertex costs one dot product. */
function meshReach({ placement: m, geometry }: Placed, d: Vec3): number {
  const local = [0, 1, 2].map((k) => m[4 * k] * d[0] + m[4 * k + 1] * d[1] + m[4 * k + 2] * d[2]);
  const {
    origin,
    mesh: { positions },
  } = geometry;
  let far = -Infinity;
  for (let i = 0; i < positions.length; i += 3) {
    const x = positions[i] * local[0] + positions[i + 1] * local[1] + positions[i + 2] * local[2];
    if (x > far) far = x;
  }
  return (
    far +
    origin[0] * local[0] +
    origin[1] * local[1] +
    origin[2] * local[2] +
    m[12] * d[0] +
    m[13] * d[1] +
    m[14] * d[2]
  );
}
