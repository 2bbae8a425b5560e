import {
  aboutAxis,
  groundPoints,
  hangingFrom,
  NoSupport,
  standingOn,
  transformPoint,
  type Standing,
  type Vec3,
  type Weight,
} from '@bathyscope/core';
import { measuredShape } from './measured.ts';
import { modelFrame } from './panes.ts';
import { storedPlacement } from './placed-points.ts';
import type { Workspace } from './workspace.ts';

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

/** How it stands: on three and more picked points, else on its lowest ones. @returns a sentence where it does not stand at all */
export function standingNow(ws: Workspace, paths: readonly string[], { centreOfGravity }: Weight): (Standing & { on: string }) | string {
  const up = upOf(ws);
  const picked = pickedPoints(ws);
  const points = picked.length >= 3 ? picked : groundPoints(outlinePoints(ws, paths), up);
  try {
    return { ...standingOn(centreOfGravity, points, up), on: picked.length >= 3 ? `${picked.length} picked points` : 'its lowest points' };
  } catch (error) {
    if (error instanceof NoSupport) return error.message;
    throw error;
  }
}

function outlinePoints(ws: Workspace, paths: readonly string[]): number[] {
  const { byPath, parts } = ws.model.getState();
  const points: number[] = [];
  for (const path of paths) {
    const { part, placement } = byPath.get(path) ?? {};
    const geometry = part === undefined ? undefined : parts.get(part)?.geometry;
    if (!geometry || !placement) continue;
    const place = storedPlacement(placement, geometry.origin);
    const { positions } = geometry.mesh;
    for (let i = 0; i < positions.length; i += 3) points.push(...transformPoint(place, [positions[i], positions[i + 1], positions[i + 2]]));
  }
  return points;
}

/** How it hangs from the picked point; null where none is picked. */
export function hangingNow(ws: Workspace, { centreOfGravity }: Weight): ReturnType<typeof hangingFrom> | null {
  const [point] = pickedPoints(ws);
  return point ? hangingFrom(centreOfGravity, point, upOf(ws)) : null;
}

/** What its weight does about the picked axis or edge; null where none is picked. */
export function turningNow(ws: Workspace, { centreOfGravity, mass }: Weight): ReturnType<typeof aboutAxis> | null {
  for (const item of ws.selection.getState().picked) {
    const shape = measuredShape(ws, item);
    if (shape?.kind === 'line' || shape?.kind === 'turned' || shape?.kind === 'circle') {
      return aboutAxis(centreOfGravity, mass, shape.origin, shape.axis, upOf(ws));
    }
  }
  return null;
}
