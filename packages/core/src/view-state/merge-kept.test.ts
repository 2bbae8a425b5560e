import { mergeKept } from './merge-kept.ts';

const set = (id: string, name = id) => ({ id, name });

test('two people’s changes are put together; where both changed one thing, mine stays', () => {
  const base = { upAxis: 'z', names: { a: 'A' }, sets: [set('1'), set('2')] };
  const mine = { upAxis: 'z', names: { a: 'A', b: 'B' }, sets: [set('1', 'mine'), set('2'), set('3')] };
  const theirs = { upAxis: 'y', names: { a: 'Other' }, sets: [set('1', 'theirs'), set('4')] };
  expect(mergeKept(base, mine, theirs)).toEqual({
    upAxis: 'y',
    names: { a: 'Other', b: 'B' },
    // 2 was taken away by them and left alone by me.
    sets: [set('1', 'mine'), set('4'), set('3')],
  });
});

test('what I took away stays away, though they changed it; without a change there is nothing to merge', () => {
  expect(mergeKept([set('1')], [], [set('1', 'new')])).toEqual([]);
  expect(mergeKept([set('1'), set('2')], [set('2')], [set('1', 'new'), set('2')])).toEqual([set('2')]);
  expect(mergeKept({ a: 1 }, { a: 1 }, { a: 2, b: 3 })).toEqual({ a: 2, b: 3 });
  expect(mergeKept(null, { a: 1 }, { b: 2 })).toEqual({ b: 2, a: 1 });
});
