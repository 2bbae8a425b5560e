import type { PartGeometry } from '@bathyscope/core/geometry';
import {
  add,
  IDENTITY,
  multiply,
  pointAt,
  scale,
  transformPoint,
  type Mat4,
  type Vec3,
} from '@bathyscope/core/math';
import type { Picked } from '../../state/selection-store.ts';

/** Placement of a component's stored positions, which are relative to their geometry's origin. */
export const storedPlacement = (placement: Mat4, origin: Vec3): Mat4 =>
  multiply(placement, [...IDENTITY.slice(0, 12), ...origin, 1]);

/** The drawn points of one face, edge or vertex, in model space. */
export function placedPointsOf(item: Picked, geometry: PartGeometry, placement: Mat4): Vec3[] {
  if (item.kind === 'vertex') return [transformPoint(placement, pointAt(geometry.vertices, item.index))];
  const place = storedPlacement(placement, geometry.origin);
  const { mesh, lines } = geometry;
  const points: Vec3[] = [];
  if (item.kind === 'body')
    return geometry.bodies[item.index].faces.flatMap((index) =>
      placedPointsOf({ ...item, kind: 'face', index }, geometry, placement),
    );
  if (item.kind === 'edge')
    for (let i = lines.start[item.index]; i < lines.start[item.index + 1]; i++)
      points.push(transformPoint(place, pointAt(lines.positions, i)));
  else
    for (let i = 3 * mesh.faceStart[item.index]; i < 3 * mesh.faceStart[item.index + 1]; i++)
      points.push(transformPoint(place, pointAt(mesh.positions, mesh.indices[i])));
  return points;
}

/** Points that are tried of a face, spread over its triangles. */
const SAMPLES = 12;

/** Middles of some triangles of a face, in model space. */
export function samplePoints(item: Picked, { mesh, origin }: PartGeometry, placement: Mat4): Vec3[] {
  const [from, to] = [mesh.faceStart[item.index], mesh.faceStart[item.index + 1]];
  const points: Vec3[] = [];
  for (let t = from; t < to; t += Math.max(1, Math.floor((to - from) / SAMPLES)))
    points.push(
      transformPoint(
        placement,
        [0, 1, 2].reduce<Vec3>(
          (sum, k) => add(sum, scale(pointAt(mesh.positions, mesh.indices[3 * t + k]), 1 / 3)),
          origin,
        ),
      ),
    );
  return points;
}
