import { clipPolygon } from '../math/clip-polygon.ts';
import { transformPoint, type Mat4 } from '../math/mat4.ts';
import { addScaled, cross, dot, length, pointAt, scale, subtract, type Vec3 } from '../math/vec3.ts';
import type { RayMesh } from './fill-rays.ts';
import type { HalfSpace } from './half-space.ts';

/**
 * How much surface of a closed mesh lies in all of some half-spaces, and how much their planes cut: mm². Exact for the mesh.
 * @param mesh xyz in the frame that `place` places
 */
export function areaWithin(
  mesh: Pick<RayMesh, 'positions' | 'indices' | 'round'>,
  place: Mat4,
  halves: readonly HalfSpace[],
): { outer: number; cut: number; /** Of `outer`, the triangles that are round. */ round: number } {
  const { positions, indices } = mesh;
  if (!indices.length) return { outer: 0, cut: 0, round: 0 };
  const base = transformPoint(place, pointAt(positions, indices[0]));
  const planes = halves.map(({ normal, constant }) => ({ normal, constant: constant + dot(normal, base) }));
  const cuts = planes.map(() => 0);
  let [outer, round] = [0, 0];
  for (let t = 0; t < indices.length; t += 3) {
    const corners = [0, 1, 2].map((k) => subtract(transformPoint(place, pointAt(positions, indices[t + k])), base));
    const area = Math.abs(areaOf(clipped(corners, planes)));
    outer += area;
    if (mesh.round?.[t / 3]) round += area;
    planes.forEach((plane, i) => (cuts[i] += cutBy(corners, plane, planes)));
  }
  return { outer, cut: cuts.reduce((sum, c) => sum + Math.abs(c), 0), round };
}

/** What a triangle's line in a plane gives to the area cut there: the triangle it makes with a fixed point of the plane, within the other planes. */
function cutBy(corners: readonly Vec3[], plane: HalfSpace, planes: readonly HalfSpace[]): number {
  const heights = corners.map((p) => dot(plane.normal, p) + plane.constant);
  let [enters, leaves]: [Vec3 | null, Vec3 | null] = [null, null];
  for (let k = 0; k < 3; k++) {
    const l = (k + 1) % 3;
    if (heights[k] < 0 === heights[l] < 0) continue;
    const at = addScaled(corners[k], subtract(corners[l], corners[k]), heights[k] / (heights[k] - heights[l]));
    if (heights[k] < 0) leaves = at;
    else enters = at;
  }
  if (!enters || !leaves) return 0;
  const fixed = scale(plane.normal, -plane.constant);
  const sign = Math.sign(dot(plane.normal, cross(subtract(enters, fixed), subtract(leaves, fixed))));
  const others = planes.filter((p) => p !== plane);
  return sign * areaOf(clipped([fixed, enters, leaves], others));
}

const clipped = (corners: readonly Vec3[], planes: readonly HalfSpace[]): readonly Vec3[] =>
  clipPolygon(
    corners,
    planes.map(
      ({ normal, constant }) =>
        (p: Vec3) =>
          dot(normal, p) + constant,
    ),
    (a, b, share) => addScaled(a, subtract(b, a), share),
  );

function areaOf(corners: readonly Vec3[]): number {
  let sum: Vec3 = [0, 0, 0];
  for (let k = 2; k < corners.length; k++)
    sum = addScaled(sum, cross(subtract(corners[k - 1], corners[0]), subtract(corners[k], corners[0])), 1);
  return length(sum) / 2;
}
