import type { Likeness } from '@bathyscope/contracts';
import { commonText, doubtText } from './likeness-text.ts';

const like = (values: Partial<Likeness>): Likeness => ({
  to: 1,
  sameRoot: true,
  parts: 15,
  before: 15,
  common: 14,
  lengthUnit: 'mm',
  unitBefore: 'mm',
  ...values,
});

test('what speaks for a revision and what against it is said in words', () => {
  expect(commonText(like({}))).toBe('the same name at the top and 14 of 15 parts');
  expect(commonText(like({ sameRoot: false, common: 15 }))).toBe('all 15 parts');
  expect(commonText(like({ sameRoot: false, common: 0 }))).toBe('');
  expect(doubtText(like({}), 'Valve')).toBe('');
  expect(doubtText(like({ sameRoot: false, common: 0 }), 'Valve')).toBe(
    'It has nothing in common with revision 1: is this really “Valve”?',
  );
  expect(doubtText(like({ parts: 1, common: 1 }), 'Valve')).toBe('It is one part, where revision 1 had 15.');
  expect(doubtText(like({ lengthUnit: 'in' }), 'Valve')).toBe(
    'Its file states “in”, that of revision 1 “mm”: look at the sizes.',
  );
});
