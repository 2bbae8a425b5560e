import type { PartGeometry } from '@bathyscope/core/geometry';
import { boxPart } from '../../../../packages/core/src/testing/box-part.ts';
import { cylinderPart } from '../../../../packages/core/src/testing/round-parts.ts';
import { startCutting } from '../workspace/cutting/cutting.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { placedAt, showModel } from './test-model.ts';
import { testWorkspace } from './test-workspace.ts';

/**
 * A plate with two equal cheeks and a hub on it, in a small pane, cut as its section says: for tests of what
 * follows from the stores.
 */
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

/** Two blocks of 10 × 20 × 30, 100 mm apart along X, and a pin that has no volume figures. */
export function openedBlocks(): Workspace {
  const ws = testWorkspace();
  showModel(
    ws,
    [boxPart(10, 20, 30), cylinderPart(5, 20)],
    [
      ['one', 0, placedAt(0, 0, 0)],
      ['two', 0, placedAt(100, 0, 0)],
      ['pin', 1, placedAt(0, 50, 0)],
    ],
  );
  return ws;
}
