import { ledgerEntry, partMaterial, pickSet, type LedgerEntry } from '@bathyscope/contracts/records';
import { IDENTITY } from '@bathyscope/core/math';
import { boxPart } from '../../../../../packages/core/src/testing/box-part.ts';
import { showModel } from '../../testing/test-model.ts';
import { testWorkspace } from '../../testing/test-workspace.ts';
import { added, changeRecords } from '../keeping/records.ts';
import { lookUp } from './look-up.ts';
import { referenceTo } from '../measuring/references.ts';

test('on a revision all that is kept of places is looked up: found, probably found, or lost, by the worst of what it is made of', () => {
  const ws = testWorkspace();
  const [small, large] = [boxPart(10, 10, 10), boxPart(20, 10, 10)];
  const show = (revision: number, ...sizes: (typeof small)[]) => {
    showModel(
      ws,
      sizes,
      sizes.map((_, i) => ['AB'[i], i, IDENTITY]),
    );
    ws.model.setState(({ detail }) => ({ detail: { ...detail!, revision } }));
  };
  show(1, small, large);
  const face = (component: string) => referenceTo(ws, { kind: 'face', component, index: 0 });
  const [ofA, ofB] = [face('a/A'), face('a/B')];
  const entry = { name: 'Width', of: [ofB], figure: '', was: 1, revision: 1 } as unknown as LedgerEntry;
  changeRecords(ws, 'keep', [
    added(ws, pickSet, { name: 'One', items: [ofA] }),
    added(ws, pickSet, { name: 'Both', items: [ofA, ofB] }),
    added(ws, pickSet, { name: 'None', items: [] }),
    added(ws, ledgerEntry, entry),
    ...['Part 0', 'Part 1'].map((part) => added(ws, partMaterial, { part, material: 'steel' })),
  ]);
  // What was kept on the revision that is open is where it was kept.
  expect(lookUp(ws)).toEqual([]);
  show(2, small, large);
  expect(lookUp(ws).map(({ title, status }) => [title, status])).toEqual([
    ['Width', 'found'],
    ['One', 'found'],
    ['Both', 'found'],
    ['material of “Part 0”', 'found'],
    ['material of “Part 1”', 'found'],
  ]);
  // The next revision has A alone.
  show(3, small);
  expect(lookUp(ws).map(({ title, status }) => [title, status])).toEqual([
    ['Width', 'lost'],
    ['One', 'found'],
    ['Both', 'lost'],
    ['material of “Part 0”', 'found'],
    ['material of “Part 1”', 'lost'],
  ]);
});
