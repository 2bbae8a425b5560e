import { matchOf, partRows, type PartsInput } from './part-rows.ts';
import { IDENTITY } from '@bathyscope/core/math';
import { listOccurrences, type ModelStructure } from '@bathyscope/core/model';

describe('rows of the parts table', () => {
  const structure: ModelStructure = {
    parts: [
      { name: 'Bolt', geometry: 'a', material: { name: 'Steel', density: 7850 } },
      { name: 'Plate', geometry: 'b' },
    ],
    root: {
      name: 'Rig',
      placement: IDENTITY,
      children: [
        {
          name: 'Group',
          placement: IDENTITY,
          children: [
            { name: 'Bolt', part: 0, placement: IDENTITY },
            { name: 'Bolt', part: 0, placement: IDENTITY },
          ],
        },
        { name: 'Plate', part: 1, placement: IDENTITY },
      ],
    },
  };
  const occurrences = listOccurrences(structure);
  const geometry = { box: { min: [0, 0, 0], max: [3, 4, 0] }, mass: { volume: 1000 } };
  const input = {
    detail: { structure },
    occurrences,
    byPath: new Map(occurrences.map((o) => [o.path, o])),
    parts: new Map([
      [0, { geometry }],
      [1, { geometry }],
    ]),
    nameOf: (path: string) => (path === './Plate' ? 'Base' : undefined),
    materialOf: (part: number) => structure.parts[part].material ?? null,
  } as unknown as PartsInput;
  const options = { flat: false, folded: new Set<string>(), search: '', sort: null };

  test('the tree counts what is below, and gives no mass where a density is missing', () => {
    const rows = partRows(input, options);
    expect(rows.map((r) => [r.name, r.quantity])).toEqual([
      ['Rig', 3],
      ['Group', 2],
      ['Bolt', 1],
      ['Bolt', 1],
      ['Base', 1],
    ]);
    // 1,000 mm³ of 7,850 kg/m³ are 7.85 g.
    expect(rows[2].mass).toBeCloseTo(0.00785, 9);
    expect(rows[0].mass).toBeNull();
    expect(rows[4].also).toBe('Plate');
  });

  test('a search keeps matches in their branches, with what is below them', () => {
    expect(partRows(input, { ...options, search: 'group' }).map((r) => r.name)).toEqual([
      'Rig',
      'Group',
      'Bolt',
      'Bolt',
    ]);
    expect(partRows(input, { ...options, search: 'base' }).map((r) => r.name)).toEqual(['Rig', 'Base']);
    expect(partRows(input, { ...options, search: 'nothing' })).toEqual([]);
  });

  test('whole words are found before beginnings and middles of others; namesakes say where they lie', () => {
    expect(['Bolt', 'Hex bolt M8', 'Bolts', 'Unbolted', 'Nut'].map((name) => matchOf(name, 'bolt'))).toEqual([
      0, 0, 1, 2, 3,
    ]);
    expect(matchOf('a +b (x)', '+b')).toBe(0);
    expect(partRows(input, { ...options, search: 'bolt' }).map((r) => r.within)).toEqual([
      '',
      '',
      'Group',
      'Group',
    ]);
    const twins = { ...structure, parts: structure.parts.map((p) => ({ ...p, name: 'Plate' })) };
    const flat = partRows({ ...input, detail: { structure: twins } } as never, { ...options, flat: true });
    expect(flat.map((r) => [r.name, r.within])).toEqual([
      ['Plate', 'Group'],
      ['Plate', ''],
    ]);
    const mixed = ['Cable', 'Able seaman', 'Able'].map((name, part) => ({ name, part, placement: IDENTITY }));
    const rig: ModelStructure = {
      parts: mixed.map(({ name }) => ({ name, geometry: name })),
      root: { name: 'Rig', placement: IDENTITY, children: mixed },
    };
    const all = listOccurrences(rig);
    const named = {
      ...input,
      detail: { structure: rig },
      occurrences: all,
      byPath: new Map(all.map((o) => [o.path, o])),
      nameOf: () => undefined,
    };
    const found = partRows({ ...named, materialOf: () => null } as never, { ...options, search: 'able' });
    expect(found.map((r) => r.name)).toEqual(['Rig', 'Able seaman', 'Able', 'Cable']);
  });

  test('the flat list has each part once with its quantity, sorted', () => {
    expect(partRows(input, { ...options, flat: true }).map((r) => [r.name, r.quantity])).toEqual([
      ['Bolt', 2],
      ['Plate', 1],
    ]);
    expect(
      partRows(input, { ...options, flat: true, sort: { by: 'quantity', down: false } }).map((r) => r.name),
    ).toEqual(['Plate', 'Bolt']);
  });
});
