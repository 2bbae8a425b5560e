import { HATCHES, hatchPatterns, type PartGeometry } from '@bathyscope/core';
import { placedMeshes } from './picking.ts';
import type { Workspace } from './workspace.ts';

/** mm. A mean wall below this is a gasket's or a sheet's. */
const SHEET = 1.5;

const isSheet = ({ mass, area }: PartGeometry): boolean => mass !== null && (2 * mass.volume) / area < SHEET;

/** How a part's cuts are hatched in this model. */
export function hatchOf(ws: Workspace, part: number): (typeof HATCHES)[number] {
  const { components, parts } = ws.model.getState();
  if (ws.memo.hatches?.of !== parts)
    ws.memo.hatches = {
      of: parts,
      byPart: hatchPatterns(
        placedMeshes(ws).map((mesh, i) => ({ ...mesh, part: components[i].part, thin: isSheet(parts.get(components[i].part)!.geometry) })),
      ),
    };
  return HATCHES[ws.memo.hatches.byPart.get(part) ?? 0];
}
