import { mergeKept } from '@bathyscope/core';
import { changesPutTo, readPreference } from './read-preference.ts';

/* Documents of a version that does not exist yet, opened and worked with by this one. */

const NEWER = {
  upAxis: 'x',
  home: { version: 99, camera: { target: [0, 0, 0] }, tide: 'high' },
  names: { './valve': 'Valve', './seat': { text: 'Seat', by: 'Ann' } },
  pickSets: [
    { id: 'a', name: 'Bolts', items: [], colour: 'red' },
    { id: 'b', name: 'Of a new kind', query: 'all holes' },
  ],
  notes: [{ id: 'n', text: 'Too thin', marks: [{ id: 'm', at: [1, 2, 3] }] }],
  materials: { Valve: 'steel', Seat: { id: 'ptfe', by: 'Ben' } },
  sealed: [null, 7, { id: 's', at: [0, 0, 0], drained: true }],
};

test('what this version does not know stays as it is, at every depth, whatever is changed beside it', () => {
  const read = readPreference(NEWER);
  expect(changesPutTo(NEWER, read)).toEqual(NEWER);
  const put = changesPutTo(NEWER, {
    ...read,
    names: { ...read.names, './stem': 'Stem' },
    pickSets: [
      { ...read.pickSets[0], name: 'M6 bolts' },
      { id: 'c', name: 'Mine', items: [] },
    ],
    materials: { ...read.materials, Stem: 'brass' },
  });
  expect(put).toEqual({
    ...NEWER,
    names: { ...NEWER.names, './stem': 'Stem' },
    pickSets: [{ ...NEWER.pickSets[0], name: 'M6 bolts' }, NEWER.pickSets[1], { id: 'c', name: 'Mine', items: [] }],
    materials: { ...NEWER.materials, Stem: 'brass' },
  });
  // Set to what it can be, or taken away, it is.
  expect(changesPutTo(NEWER, { ...read, upAxis: 'y', pickSets: [] })).toMatchObject({ upAxis: 'y', pickSets: [NEWER.pickSets[1]] });
});

test('a name at a path as it was once written is changed, not kept twice', () => {
  const old = { names: { 'Valve/stem': 'Old', 'Valve/seat': 'Seat' } };
  const put = changesPutTo(old, { ...readPreference(old), names: { './stem': 'New', './seat': 'Seat' } });
  expect(put['names']).toEqual({ './stem': 'New', './seat': 'Seat' });
  expect(readPreference(put).names['./stem']).toBe('New');
});

test('nothing is stored at first, and what two pages made of the same is put together', () => {
  const fresh = readPreference(null);
  const mine = changesPutTo(null, { ...fresh, upAxis: 'y' });
  expect(mine).toEqual({ upAxis: 'y' });
  const theirs = { upAxis: 'z', notes: [{ id: 'n' }] };
  expect(mergeKept(null, mine, theirs)).toEqual({ upAxis: 'y', notes: [{ id: 'n' }] });
});

test('what a section leaves whole was once kept as paths, and is read still; what is no entry of a list is left out', () => {
  const section = { on: true, planes: [] };
  const { sections, pickSets } = readPreference({
    sections: [null, { id: 's', name: 'A', section, whole: ['Valve/stem', 7] }],
    pickSets: [null, 'x'],
  });
  expect(sections[0].whole).toMatchObject([{ kind: 'component', component: './stem' }]);
  expect([sections.length, pickSets]).toEqual([1, []]);
});
