import {
  aboutAxis,
  groundPoints,
  hangingFrom,
  NoSupport,
  ON_GROUND,
  standingOn,
  type Standing,
  type MassProperties,
} from '@bathyscope/core/mass';
import { boxCorners, dot, transformPoint, type Vec3 } from '@bathyscope/core/math';
import { boxOf } from '../shown/components.ts';
import { measuredShape } from '../measuring/measured.ts';
import { placedMeshesOf } from './mass-jobs.ts';
import { modelFrame } from '../view/panes.ts';
import type { Workspace } from '../workspace.ts';

/* How a weighed set stands, hangs and turns. Up is the model's. */

export const upOf = (ws: Workspace): Vec3 => modelFrame(ws).up;

/** The points that are picked: vertices, centres, points. */
export function pickedPoints(ws: Workspace): Vec3[] {
  return ws.selection.getState().picked.flatMap((item): Vec3[] => {
    const shape = measuredShape(ws, item);
    if (!shape) return [];
    if (shape.kind === 'point') return [shape.at];
    return shape.kind === 'circle' ? [shape.origin] : [];
  });
}

/**
 * How it stands: on three and more picked points, else on its lowest ones. @returns a sentence where it does
 * not stand at all
 */
export function standingNow(
  ws: Workspace,
  paths: readonly string[],
  { centreOfGravity }: MassProperties,
): (Standing & { on: string }) | string {
  const up = upOf(ws);
  const picked = pickedPoints(ws);
  const points = picked.length >= 3 ? picked : lowestPoints(ws, paths, up);
  try {
    return {
      ...standingOn(centreOfGravity, points, up),
      on: picked.length >= 3 ? `${picked.length} picked points` : 'its lowest points',
    };
  } catch (error) {
    if (error instanceof NoSupport) return error.message;
    throw error;
  }
}

/**
 * The points on which it stands on a level ground. Of components only those are gone through
 * whose box comes down as far.
 */
function lowestPoints(ws: Workspace, paths: readonly string[], up: Vec3): Vec3[] {
  const meshes = placedMeshesOf(ws, paths).map((mesh) => ({
    ...mesh,
    down: Math.min(...boxCorners(boxOf(ws, [mesh.path])).map((p) => dot(p, up))),
  }));
  meshes.sort((a, b) => a.down - b.down);
  let low = Infinity;
  const points: number[] = [];
  for (const { positions, place, down } of meshes) {
    if (down > low + ON_GROUND) break;
    for (let i = 0; i < positions.length; i += 3) {
      const p = transformPoint(place, [positions[i], positions[i + 1], positions[i + 2]]);
      const height = dot(p, up);
      if (height > low + ON_GROUND) continue;
      low = Math.min(low, height);
      points.push(...p);
    }
  }
  return groundPoints(points, up);
}

/** How it hangs from the picked point; null where none is picked. */
export function hangingNow(
  ws: Workspace,
  { centreOfGravity }: MassProperties,
): ReturnType<typeof hangingFrom> | null {
  const [point] = pickedPoints(ws);
  return point ? hangingFrom(centreOfGravity, point, upOf(ws)) : null;
}

/** What its weight does about the picked axis or edge; null where none is picked. */
export function turningNow(
  ws: Workspace,
  { centreOfGravity, mass }: MassProperties,
): ReturnType<typeof aboutAxis> | null {
  for (const item of ws.selection.getState().picked) {
    const shape = measuredShape(ws, item);
    if (shape?.kind === 'line' || shape?.kind === 'turned' || shape?.kind === 'circle') {
      return aboutAxis(centreOfGravity, mass, shape.origin, shape.axis, upOf(ws));
    }
  }
  return null;
}
