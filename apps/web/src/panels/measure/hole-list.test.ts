import type { Hole } from '@bathyscope/core/geometry';
import { HOLE_FIGURES } from '@bathyscope/core/facts';
import { plainStyle } from '@bathyscope/core/units';
import type { HoleRow } from '../../workspace/measuring/hole-table.ts';
import { holeColumns, holeGrid } from './hole-grid.ts';
import { holeList } from '../../pictures/hole-list.ts';

const hole: Hole = {
  faces: [0],
  diameter: 5.5,
  depth: 20,
  start: [0, 0, 0],
  axis: [0, 0, 1],
  ends: 'through',
  steps: [],
  opensInto: [],
  accuracy: { kind: 'exact' },
};
const row: HoleRow = { mark: 'A1', type: 'A', component: 'a/plate', face: 0, hole, at: [-1, 0, 12.25] };
const style = plainStyle('mm');

test('each figure of a hole is a column of the list that is saved, with plain minus signs and the unit', () => {
  const [head, line] = holeList([row], style, (path) => `name of ${path}`);
  for (const { label, quantity } of HOLE_FIGURES)
    expect(head).toContain(quantity === 'length' ? `${label}, mm` : label);
  const at = (name: string) => line[head.indexOf(name)];
  expect([at('Hole'), at('Component'), at('Diameter, mm')]).toEqual(['A1', 'name of a/plate', '5.500']);
  expect([at('X, mm'), at('Z, mm'), at('Least depth along the wall, mm')]).toEqual(['-1.000', '12.250', '']);
});

test('places stand in a line of their own where the table is too narrow for all', () => {
  const columns = holeColumns([0, 1], style);
  expect(columns.map((c) => [c.head, c.text(row)])).toEqual([
    ['Hole', 'A1'],
    ['Ø', '5.500'],
    ['Depth', 'through'],
    ['X', '−1.000'],
    ['Y', '0.000'],
  ]);
  expect(holeGrid(columns, 2, [row], 1000)).toMatchObject({ lines: 1 });
  const narrow = holeGrid(columns, 2, [row], 150);
  expect(narrow.lines).toBe(2);
  // X stands under the diameter, Y under the depth.
  expect(narrow.cell(3)).toEqual({ gridColumnStart: 2 });
  expect(narrow.grid.gridTemplateColumns.split(' 1fr)').length - 1).toBe(3);
});
