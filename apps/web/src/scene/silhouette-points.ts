import { pointAt, transformPoint, type Mat4, type PartGeometry, type Vec3 } from '@bathyscope/core';
import { modelStore } from '../stores/model-store.ts';
import type { Picked } from '../stores/selection-store.ts';
import { storedPlacement } from './model-scene.ts';

/** Above this many points a fit uses boxes: a screenful of points tells no more. */
const LIMIT = 400_000;

/** The drawn points of the given components, so that a fit holds their exact outline and not only their boxes; null when they are too many. */
export function outlinePoints(paths: readonly string[]): Vec3[] | null {
  const { byPath, parts } = modelStore.getState();
  const chosen = paths.flatMap((path) => {
    const component = byPath.get(path);
    const part = component?.part === undefined ? undefined : parts.get(component.part);
    return component && part ? [{ component, geometry: part.geometry }] : [];
  });
  if (chosen.reduce((n, { geometry }) => n + geometry.mesh.positions.length / 3, 0) > LIMIT) return null;
  const points: Vec3[] = [];
  for (const { component, geometry } of chosen) {
    const place = storedPlacement(component.placement, geometry.origin);
    const p = geometry.mesh.positions;
    for (let i = 0; i < p.length; i += 3) points.push(transformPoint(place, [p[i], p[i + 1], p[i + 2]]));
  }
  return points;
}

/** The drawn points of one face, edge or vertex, in model space. */
export function placedPointsOf(item: Picked, geometry: PartGeometry, placement: Mat4): Vec3[] {
  if (item.kind === 'vertex') return [transformPoint(placement, pointAt(geometry.vertices, item.index))];
  const place = storedPlacement(placement, geometry.origin);
  const { mesh, lines } = geometry;
  const points: Vec3[] = [];
  if (item.kind === 'edge') for (let i = lines.start[item.index]; i < lines.start[item.index + 1]; i++) points.push(transformPoint(place, pointAt(lines.positions, i)));
  else for (let i = 3 * mesh.faceStart[item.index]; i < 3 * mesh.faceStart[item.index + 1]; i++) points.push(transformPoint(place, pointAt(mesh.positions, mesh.indices[i])));
  return points;
}
