import { directionOfPick, normalAt, type PickDirection, type PlacedPick } from '@bathyscope/core/facts';
import { vecOf } from '@bathyscope/core/math';
import { fromPlane } from '@bathyscope/core/section';
import { cutOfPick } from '../../workspace/picking/cut-picks.ts';
import { datumOf } from '../../workspace/picking/datums.ts';
import { isOfCut, type Picked } from '../../state/selection-store.ts';
import { geometryOf } from '../../workspace/view/camera-targets.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { curvesOf } from '../../workspace/cutting/cuts.ts';

/**
 * The direction of a picked cut: square to its plane, along a straight outline, or through
 * the centre of a round one.
 */
export function cutDirection(ws: Workspace, item: Picked): PickDirection | null {
  const found = cutOfPick(ws, item);
  if (!found || !item.point) return null;
  const {
    plane: {
      cut: { normal },
      frame,
      plane,
    },
    cut,
  } = found;
  if (item.kind === 'cap') return { kind: 'normal', origin: item.point, direction: normal };
  const curve = item.kind === 'outline' ? curvesOf(ws, plane.id, cut)[item.index] : undefined;
  if (curve?.shape === 'arc')
    return { kind: 'axis', origin: fromPlane(frame, curve.centre), direction: normal };
  if (curve?.shape !== 'line') return null;
  const [dx, dy] = [curve.to[0] - curve.from[0], curve.to[1] - curve.from[1]];
  const length = Math.hypot(dx, dy);
  return {
    kind: 'along',
    origin: item.point,
    direction: vecOf((k) => (frame.u[k] * dx + frame.v[k] * dy) / length),
  };
}

const placedOf = (ws: Workspace, item: Picked): PlacedPick | null => {
  const placed = item.kind === 'component' || item.kind === 'point' ? undefined : geometryOf(ws, item);
  return placed ? { kind: item.kind, index: item.index, point: item.point, ...placed } : null;
};

/** The direction that belongs to a picked thing; null where there is no single one. */
export function directionOf(ws: Workspace, item: Picked): PickDirection | null {
  if (isOfCut(item.kind)) return cutDirection(ws, item);
  if (item.datum !== undefined) {
    const datum = datumOf(ws, item.datum);
    if (!datum || datum.kind === 'origin') return null;
    return {
      kind: datum.kind === 'plane' ? 'normal' : 'along',
      origin: datum.origin,
      direction: datum.direction,
    };
  }
  const pick = placedOf(ws, item);
  return pick && directionOfPick(pick);
}

/** The same; of a curved face without one, the normal where it was picked. */
export function directionAt(ws: Workspace, item: Picked): PickDirection | null {
  const pick = isOfCut(item.kind) ? null : placedOf(ws, item);
  return directionOf(ws, item) ?? (pick && normalAt(pick));
}
