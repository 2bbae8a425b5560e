import { transformPoint, type Mat4 } from '../math/mat4.ts';
import { belowAll, countedFrom, throughPlane, type Plane } from '../math/plane.ts';
import { addScaled, cross, dot, length, pointAt, scale, subtract, type Vec3 } from '../math/vec3.ts';
import type { RayMesh } from './fill-rays.ts';

/**
 * How much surface of a closed mesh lies below all of some planes, and how much the planes cut:
 * mm². Exact for the mesh.
 * @param mesh xyz in the frame that `place` places
 */
export function areaWithin(
  mesh: Pick<RayMesh, 'positions' | 'indices' | 'round'>,
  place: Mat4,
  planes: readonly Plane[],
): { outer: number; cut: number; /** Of `outer`, the triangles that are round. */ round: number } {
  const { positions, indices } = mesh;
  if (!indices.length) return { outer: 0, cut: 0, round: 0 };
  const base = transformPoint(place, pointAt(positions, indices[0]));
  const near = planes.map((plane) => countedFrom(plane, base));
  const cuts = near.map(() => 0);
  let [outer, round] = [0, 0];
  for (let t = 0; t < indices.length; t += 3) {
    const corners = [0, 1, 2].map((k) =>
      subtract(transformPoint(place, pointAt(positions, indices[t + k])), base),
    );
    const area = Math.abs(areaOf(belowAll(corners, near)));
    outer += area;
    if (mesh.round?.[t / 3]) round += area;
    near.forEach((plane, i) => (cuts[i] += cutBy(corners, plane, near)));
  }
  return { outer, cut: cuts.reduce((sum, c) => sum + Math.abs(c), 0), round };
}

/**
 * What a triangle's line in a plane gives to the area cut there: the triangle it makes with a fixed point of
 * the plane, within the other planes.
 */
function cutBy(corners: readonly Vec3[], plane: Plane, planes: readonly Plane[]): number {
  const line = throughPlane(corners, plane);
  if (!line) return 0;
  const fixed = scale(plane.normal, plane.constant);
  const sign = Math.sign(dot(plane.normal, cross(subtract(line.up, fixed), subtract(line.down, fixed))));
  const others = planes.filter((p) => p !== plane);
  return sign * areaOf(belowAll([fixed, line.up, line.down], others));
}

function areaOf(corners: readonly Vec3[]): number {
  let sum: Vec3 = [0, 0, 0];
  for (let k = 2; k < corners.length; k++)
    sum = addScaled(sum, cross(subtract(corners[k - 1], corners[0]), subtract(corners[k], corners[0])), 1);
  return length(sum) / 2;
}
