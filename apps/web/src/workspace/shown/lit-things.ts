import type { Picked } from '../../state/selection-store.ts';
import { litOfCut } from '../picking/cut-picks.ts';
import { litOfDatum } from '../picking/datums.ts';
import { pointOfPick } from '../picking/snap-picks.ts';
import type { Workspace } from '../workspace.ts';

/**
 * What is lit of a picked thing that is no piece of a part: of a cut, of reference geometry, a point. Model
 * space; null when it is gone.
 */
export function litLoose(ws: Workspace, item: Picked): ReturnType<typeof litOfCut> {
  if (item.datum !== undefined) return litOfDatum(ws, item.datum);
  if (item.kind !== 'point') return litOfCut(ws, item);
  const point = pointOfPick(ws, item);
  return point && { triangles: [], indices: [], segments: [], point: point.at };
}
