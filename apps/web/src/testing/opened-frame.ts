import type { PartGeometry } from '@bathyscope/core';
import { boxPart } from '../../../../packages/core/src/testing/box-part.ts';
import { startCutting } from '../workspace/cutting/cutting.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { placedAt, showModel } from './test-model.ts';
import { testWorkspace } from './test-workspace.ts';

/** A plate with two equal cheeks and a hub on it, in a small pane, cut as its section says: for tests of what follows from the stores. */
export function openedFrame(hub: PartGeometry): Workspace {
  const ws = testWorkspace();
  showModel(
    ws,
    [boxPart(60, 40, 5), boxPart(5, 40, 20), hub],
    [
      ['plate', 0, placedAt(0, 0, 0)],
      ['left', 1, placedAt(0, 0, 5)],
      ['right', 1, placedAt(55, 0, 5)],
      ['hub', 2, placedAt(30, 20, 5)],
    ],
  );
  ws.camera.getState().setCanvas({ width: 120, height: 90 });
  ws.players.cutting = startCutting(ws);
  return ws;
}
