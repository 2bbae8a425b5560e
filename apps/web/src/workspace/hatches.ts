import { HATCHES, hatchPatterns } from '@bathyscope/core';
import { placedMeshes } from './picking.ts';
import type { Workspace } from './workspace.ts';

/** How a part's cuts are hatched in this model. */
export function hatchOf(ws: Workspace, part: number): (typeof HATCHES)[number] {
  const { components, parts } = ws.model.getState();
  if (ws.memo.hatches?.of !== parts)
    ws.memo.hatches = { of: parts, byPart: hatchPatterns(placedMeshes(ws).map((mesh, i) => ({ ...mesh, part: components[i].part }))) };
  return HATCHES[ws.memo.hatches.byPart.get(part) ?? 0];
}
