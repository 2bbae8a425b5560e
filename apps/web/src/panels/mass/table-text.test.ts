import { alignPoints, tableText } from './table-text.ts';

test('numbers of a table have five digits, whatever their size; rounding is nil', () => {
  expect(tableText([2522, -2.4573, -110.6512, 6275.149, 1e-4])).toEqual([
    '2522.0',
    '−2.4573',
    '−110.65',
    '6275.1',
    '0',
  ]);
  expect(tableText([12345678, 99999.96, 0.99999951])).toEqual(['12346000', '100000', '0']);
  expect(tableText([9.999996])).toEqual(['10.000']);
  expect(tableText([0, 0])).toEqual(['0', '0']);
});

test('decimal points of a column stand under one another', () => {
  const column = alignPoints(['2522.0', '−2.4573', '0', '10']);
  // Flush right: as much is behind the point everywhere.
  expect(column).toEqual([
    '2522.0\u00a0\u00a0\u00a0',
    '−2.4573',
    '0\u00a0\u00a0\u00a0\u00a0\u00a0',
    '10\u00a0\u00a0\u00a0\u00a0\u00a0',
  ]);
});
