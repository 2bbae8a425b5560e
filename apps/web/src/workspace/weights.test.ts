import type { ModelDetail } from '@bathyscope/contracts';
import { boxPart } from '../../../../packages/core/src/testing/box-part.ts';
import { cylinderPart } from '../../../../packages/core/src/testing/round-parts.ts';
import { createProfileState } from '../state/settings-store.ts';
import { placedAt, showModel } from '../testing/test-model.ts';
import { setVisible } from '../commands/show/visibility-commands.ts';
import { createWorkspace } from './create-workspace.ts';
import { fixtureSource } from './fixture-source.ts';
import { giveMaterial, materialOf, partWeights, pathsOf, weightOf } from './weights.ts';
import type { Workspace } from './workspace.ts';

/** Two blocks of 10 × 20 × 30, 100 mm apart along X, and a pin that has no volume figures. */
function opened(): Workspace {
  const ws = createWorkspace(fixtureSource({ id: 'fixture', name: 'Frame' } as ModelDetail), createProfileState());
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

test('what has no material is counted; given one, it is weighed, follows what is shown, and is taken back by undo', () => {
  const ws = opened();
  const all = () => weightOf(ws, pathsOf(ws, 'all'));
  expect(all()).toMatchObject({ known: null, noDensity: 2, noVolume: 1 });
  giveMaterial(ws, [0], '6082');
  expect(materialOf(ws, 0)).toEqual({ name: 'Aluminium 6082', density: 2700, of: 'library' });
  // 6,000 mm³ each.
  expect(all().known!.mass).toBeCloseTo(2 * 6000 * 2700e-9, 12);
  expect(all().known!.centreOfGravity[0]).toBeCloseTo(55, 9);
  expect(partWeights(ws, pathsOf(ws, 'all')).map(({ count, total, open }) => [count, total && total.toFixed(4), open !== null])).toEqual([
    [1, null, true],
    [2, '0.0324', false],
  ]);
  setVisible(ws, ['a/two'], false);
  expect(weightOf(ws, pathsOf(ws, 'shown')).known!.mass).toBeCloseTo(6000 * 2700e-9, 12);
  ws.selection.getState().pick([{ kind: 'face', component: 'a/two', index: 0 }]);
  expect(pathsOf(ws, 'picked')).toEqual(['a/two']);
  ws.history.getState().undo();
  expect(materialOf(ws, 0)).toBeNull();
  giveMaterial(ws, [0, 1], 'steel');
  giveMaterial(ws, [0], null);
  expect(Object.values(ws.preference.getState().materials)).toEqual(['steel']);
});
