import { dot, MODEL_SYSTEM, subtract, type ReferenceSystem, type Vec3 } from '@bathyscope/core/math';
import { referenceSystem } from '@bathyscope/contracts/records';
import type { Picked } from '../../state/selection-store.ts';
import { kept } from '../keeping/records.ts';
import { pickOf } from '../measuring/references.ts';
import { systemNow, systemOfPicks } from '../measuring/systems.ts';
import type { Workspace } from '../workspace.ts';

/** A point in the axes that figures are told in. */
export function displayedPoint(ws: Workspace, point: Vec3): Vec3 {
  const system = systemNow(ws);
  if (!system) return point;
  const d = subtract(point, system.origin);
  return [dot(system.x, d), dot(system.y, d), dot(system.z, d)];
}

/**
 * What inertia is told about: the centre of gravity in the model's axes, the origin, or a system of one's
 * own. Null where that is lost.
 */
export function inertiaSystem(ws: Workspace, about: string, centreOfGravity: Vec3): ReferenceSystem | null {
  if (about === 'centre') return { ...MODEL_SYSTEM, origin: centreOfGravity };
  if (about === 'origin') return MODEL_SYSTEM;
  const items = kept(ws, referenceSystem)
    .find((s) => s.id === about)
    ?.of.map((r) => pickOf(ws, r));
  if (!items?.length || items.includes(null)) return null;
  try {
    return systemOfPicks(ws, items as Picked[]);
  } catch {
    return null;
  }
}
