import { viewBack, viewRight } from '@bathyscope/core/camera';
import { dot } from '@bathyscope/core/math';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { placedAt, showModel } from '../../testing/test-model.ts';
import { testWorkspace } from '../../testing/test-workspace.ts';
import { mainPane } from '../../workspace/view/panes.ts';
import { commandById } from '../registry.ts';
import { runCommand } from '../run-command.ts';
import { directionAt } from './pick-directions.ts';

test('normal to a face and an edge, in whichever order: straight on to the face, the edge level, turned no further than needed', () => {
  const ws = testWorkspace();
  showModel(ws, [boxPart(30, 40, 5)], [['one', 0, placedAt(0, 0, 0)]]);
  const { geometry } = ws.model.getState().parts.get(0)!;
  const item = (kind: 'face' | 'edge', index: number) => ({ kind, component: 'a/one', index });
  const start = mainPane(ws).camera;
  let [level, onEnd] = [0, 0];
  geometry.faces.forEach((_, f) =>
    geometry.edges.forEach((__, e) => {
      const [face, edge] = [item('face', f), item('edge', e)];
      const [normal, along] = [face, edge].map((i) => directionAt(ws, i)!.direction);
      ws.camera.getState().setCamera(start, 0);
      const before = viewRight(mainPane(ws).camera);
      ws.selection.getState().pick(e % 2 ? [face, edge] : [edge, face]);
      runCommand(ws, commandById('normal-to'));
      const { camera } = mainPane(ws);
      if (Math.abs(dot(normal, along)) > 0.5) {
        // An edge that stands on the face has no direction in it: what was picked first alone counts.
        onEnd++;
        return;
      }
      level++;
      expect(dot(viewBack(camera), normal)).toBeCloseTo(1, 9);
      expect(Math.abs(dot(viewRight(camera), along))).toBeCloseTo(1, 9);
      expect(dot(viewRight(camera), before)).toBeGreaterThanOrEqual(-1e-9);
    }),
  );
  expect([level, onEnd]).toEqual([6 * 8, 6 * 4]);
});
