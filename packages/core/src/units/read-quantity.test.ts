import fc from 'fast-check';
import { MILLIMETRES, LENGTH_UNITS } from './format-quantity.ts';
import { readQuantity } from './read-quantity.ts';

const mm = (text: string, bare = 1) => readQuantity(text, 'length', bare);
const degrees = (text: string) => {
  const read = readQuantity(text, 'angle', Math.PI / 180);
  return 'value' in read ? (read.value * 180) / Math.PI : read;
};

test.each<[string, number]>([
  ['90', 90],
  ['12,5', 12.5],
  ['.5', 0.5],
  ['5.', 5],
  ['-3', -3],
  ['\u22123', -3],
  ['12\u2009345.5', 12345.5],
  ['1e3', 1000],
  ['30/2', 15],
  ['1in', 25.4],
  ['1/2 in', 12.7],
  ['1/2 in + 3', 15.7],
  ['3 + 1/2"', 15.7],
  ['1 1/2 in', 38.1],
  ['-1 1/2 in', -38.1],
  ['1 1/2', 1.5],
  ['30 in/2', 381],
  ['(1 + 2) in', 76.2],
  ['2*(10 + 2.5)', 25],
  ['10 - 2 - 3', 5],
  ['24/4/2', 3],
  ['2 × 3', 6],
  ['5\' 3"', 1600.2],
  ['5\' 3 1/2"', 1612.9],
  ['1 m 20 cm', 1200],
  ['25 µm', 0.025],
  ['2 CM', 20],
  ['10 mm + 1 in', 35.4],
  ['40 thou', 1.016],
  ['--2', 2],
])('%s is %d mm', (text, value) => {
  const read = mm(text);
  expect(read).toEqual({ value: expect.closeTo(value, 12), worked: expect.any(Boolean) });
});

test('bare numbers are in the unit of the field, others in their own', () => {
  expect(mm('2', 25.4)).toEqual({ value: 50.8, worked: false });
  expect(mm('1 + 10 mm', 25.4)).toEqual({ value: expect.closeTo(35.4, 12), worked: true });
  expect(mm('3/2', 25.4)).toMatchObject({ value: expect.closeTo(38.1, 12) });
});

test('angles in degrees, minutes, seconds and radians', () => {
  expect(degrees('12° 30\' 36"')).toBeCloseTo(12.51, 12);
  expect(degrees('45')).toBeCloseTo(45, 12);
  expect(degrees('1 rad')).toBeCloseTo(57.29577951308232, 12);
  expect(degrees('100 gon')).toBeCloseTo(90, 12);
  expect(degrees('360/7')).toBeCloseTo(360 / 7, 12);
  expect(readQuantity('1,5 min', 'time', 1)).toEqual({ value: 90, worked: true });
});

test.each<[string, RegExp]>([
  ['', /Type a length/],
  ['abc', /“abc” is not a number/],
  ['12 kg', /“kg” is no unit of length/],
  ['2 in * 3 in', /units are multiplied/],
  ['10 mm / 2 mm', /units cancel/],
  ['4 / 0', /divided by nothing/],
  ['(3', /bracket is not closed/],
  ['3 +', /number is missing/],
  ['1,234.5', /two decimal marks/],
  ['3 4', /“4” is not understood/],
  ['3 in 4', /sign is missing/],
  ['3)', /“\)” is not understood/],
  ['constructor', /not a number/],
  ['3 constructor', /no unit/],
  ['('.repeat(150), /too many brackets/],
  ['1'.repeat(300), /too long/],
])('%s is refused with a sentence', (text, sentence) => {
  expect(mm(text)).toEqual({ wrong: expect.stringMatching(sentence) });
});

test('any sum of quantities is their sum in millimetres', () => {
  const quantity = fc.record({
    number: fc
      .double({ min: 0, max: 1e6, noNaN: true, noDefaultInfinity: true })
      .map((x) => Number(x.toFixed(4))),
    unit: fc.constantFrom(...LENGTH_UNITS, ''),
    sign: fc.constantFrom('+', '-'),
  });
  fc.assert(
    fc.property(
      fc.array(quantity, { minLength: 1, maxLength: 5 }),
      fc.constantFrom(...LENGTH_UNITS),
      (parts, shown) => {
        const bare = MILLIMETRES[shown];
        const text = parts
          .map((p, i) => `${i || p.sign === '-' ? p.sign : ''} ${p.number} ${p.unit}`)
          .join(' ');
        const expected = parts.reduce((sum, p, i) => {
          const value = p.number * (p.unit ? MILLIMETRES[p.unit] : bare);
          return sum + (p.sign === '-' ? -value : i || p.sign === '+' ? value : value);
        }, 0);
        const scale = parts.reduce((sum, p) => sum + p.number * 1000, 1);
        const read = readQuantity(text, 'length', bare);
        expect('value' in read && Math.abs(read.value - expected) < 1e-12 * scale).toBe(true);
      },
    ),
  );
});

test('nothing that is typed throws', () => {
  fc.assert(
    fc.property(
      fc.string({ maxLength: 30 }),
      fc.constantFrom('length', 'angle', 'time', 'number'),
      (text, kind) => {
        const read = readQuantity(text, kind as 'length', 1);
        expect('wrong' in read ? read.wrong.length > 3 : Number.isFinite(read.value)).toBe(true);
      },
    ),
  );
});

test('fractions as drawings write them, brackets as sums read them, and digits that may have been a group', () => {
  const length = (text: string) => readQuantity(text, 'length', 1);
  for (const [text, value] of [
    [`5' 1/2"`, 5 * 304.8 + 12.7],
    [`5' 3 1/2"`, 5 * 304.8 + 3.5 * 25.4],
    ['1-1/2 in', 38.1],
    ['1-1/2"', 38.1],
    [`2' 1-1/2"`, 609.6 + 38.1],
    ['1 - 1/2 in', 1 - 12.7],
    ['3/4 in', 19.05],
    ['(1/2) in', 12.7],
  ] as const)
    expect([text, length(text)]).toEqual([text, { value: expect.closeTo(value, 9), worked: true }]);
  expect(length('1/(2 in)')).toEqual({ wrong: expect.stringMatching(/not a length/) });
  // A comma is a decimal mark; but what was understood is shown where it could have been meant otherwise.
  expect(length('7,850')).toEqual({ value: 7.85, worked: true });
  expect(length('7,85')).toEqual({ value: 7.85, worked: false });
  expect(readQuantity('1-1/2', 'number', 1)).toMatchObject({ value: 0.5 });
});
