import type { PartRow } from './part-rows.ts';
import { itemOf, itemsBetween, moveOfKey, withRowTurned } from './parts-table.ts';

const row = (key: string, more: Partial<PartRow> = {}) =>
  ({ key, paths: [key], expanded: null, parent: null, ...more }) as PartRow;
/* Rig ▾ / Group ▸ / Plate ×2 (one row of a flat list stands for several components). */
const rows = [
  row('rig', { expanded: true }),
  row('rig/group', { expanded: false, parent: 'rig' }),
  row('rig/plate', { parent: 'rig', paths: ['rig/plate', 'rig/plate~2'] }),
];

test('keys lead through the tree: to the next row, into a branch, back to what holds it; a leaf stays', () => {
  expect(moveOfKey('ArrowDown', rows, 0)).toEqual({ to: 1 });
  expect(moveOfKey('ArrowUp', rows, 1)).toEqual({ to: 0 });
  expect([moveOfKey('Home', rows, 2), moveOfKey('End', rows, 0)]).toEqual([{ to: 0 }, { to: 2 }]);
  expect(moveOfKey('ArrowRight', rows, 0)).toEqual({ to: 1 });
  expect(moveOfKey('ArrowRight', rows, 1)).toEqual({ folded: false });
  expect(moveOfKey('ArrowRight', rows, 2)).toEqual({ to: 2 });
  expect(moveOfKey('ArrowLeft', rows, 0)).toEqual({ folded: true });
  expect(moveOfKey('ArrowLeft', rows, 2)).toEqual({ to: 0 });
  expect(moveOfKey('x', rows, 0)).toEqual({});
});

test('Shift picks all between, whichever comes first; Ctrl adds a row, and takes it out where all of it is picked', () => {
  expect(itemsBetween(rows, 2, 1)).toEqual(itemsBetween(rows, 1, 2));
  expect(itemsBetween(rows, 1, 2).map((i) => i.component)).toEqual(['rig/group', 'rig/plate', 'rig/plate~2']);
  const half = [itemOf('rig/group'), itemOf('rig/plate')];
  const all = withRowTurned(half, rows[2]);
  expect(all.map((i) => i.component)).toEqual(['rig/group', 'rig/plate', 'rig/plate~2']);
  expect(withRowTurned(all, rows[2])).toEqual([itemOf('rig/group')]);
});
