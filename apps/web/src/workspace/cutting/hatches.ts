import type { PartGeometry } from '@bathyscope/core/geometry';
import { HATCHES, hatchPatterns } from '@bathyscope/core/section';
import { derived } from '../derived/derived.ts';
import { placedMeshes } from '../picking/picking.ts';
import type { Workspace } from '../workspace.ts';

/** mm. A mean wall below this is a gasket's or a sheet's. */
const SHEET = 1.5;

const isSheet = ({ mass, area }: PartGeometry): boolean => mass !== null && (2 * mass.volume) / area < SHEET;

const hatches = derived('how parts are hatched', (ws) => {
  const { components, parts } = ws.model.getState();
  return hatchPatterns(
    placedMeshes(ws).map((mesh, i) => ({
      ...mesh,
      part: components[i].part,
      thin: isSheet(parts.get(components[i].part)!.geometry),
    })),
  );
});

/** How a part's cuts are hatched in this model. */
export const hatchOf = (ws: Workspace, part: number): (typeof HATCHES)[number] =>
  HATCHES[ws.derived.of(hatches).get(part) ?? 0];
