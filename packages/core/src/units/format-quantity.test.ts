import { valueText } from '../facts/fact-text.ts';
import { formatQuantity, formatWithin, significant } from './format-quantity.ts';
import { plainStyle, type UnitStyle } from './unit-style.ts';

const shown = (
  value: number,
  kind: 'length' | 'angle' | 'area',
  unit: UnitStyle['unit'],
  style: Partial<UnitStyle> = {},
) =>
  Object.values(formatQuantity(value, kind, { ...plainStyle(unit), ...style }))
    .join(' ')
    .trim();

describe('what is shown', () => {
  test('quantities are rounded to what is shown, in the chosen unit', () => {
    expect(formatQuantity(25.4, 'length', 'in').text).toBe('1.0000');
    expect(formatQuantity(-0.00001, 'length', 'mm').text).not.toMatch(/^[-\u2212]/);
  });

  test('a bound has two figures upwards, and what it bounds goes no further than it', () => {
    expect(formatWithin(1727.051, 1206.299, 'volume', 'mm')).toEqual({
      text: '1700',
      within: '1300',
      unit: 'mm³',
    });
    expect(formatWithin(1937035.4, 36.2, 'volume', 'mm')).toEqual({
      text: '1\u2009937\u2009035',
      within: '37',
      unit: 'mm³',
    });
    expect(formatWithin(1727.051, 0.012, 'volume', 'mm')).toMatchObject({
      text: '1727.051',
      within: '0.012',
    });
    expect(formatWithin(1727051, 1206.299, 'volume', 'cm')).toEqual({
      text: '1727.1',
      within: '1.3',
      unit: 'cm³',
    });
  });

  test('areas and volumes have the decimals that are set, and figures enough where they are small', () => {
    expect(shown(308.2204, 'area', 'mm')).toBe('308.220 mm²');
    expect(shown(308.2204, 'area', 'mm', { precision: 1 })).toBe('308.2 mm²');
    expect(formatQuantity(1e-7, 'volume', 'mm').text).toBe('0.0000001000');
    expect(formatQuantity(0, 'volume', 'mm').text).toBe('0.000');
    expect(formatQuantity(1234567.891, 'volume', 'mm').text).toBe('1\u2009234\u2009568');
    expect(formatQuantity(0.01234567, 'area', 'mm').text).toBe('0.01235');
  });

  test('significant figures are never told by a power of ten, and take no more than they are', () => {
    expect([160, 12345.6, 0.5, -3.14159, 0, 99.96, 1e-12].map((x) => significant(x, 3))).toEqual(
      ['160', '12\u2009300', '0.500', '−3.14', '0.00', '100', '0.000000000'], // prettier-ignore
    );
    expect([100, 16, 0.3].map((x) => significant(x, 1))).toEqual(['100', '20', '0.3']);
  });

  test('precision is that of a millimetre, whatever the unit', () => {
    expect(shown(12.34567, 'length', 'mm', { precision: 1 })).toBe('12.3 mm');
    expect(shown(12.34567, 'length', 'm', { precision: 1 })).toBe('0.0123 m');
    expect(shown(12.34567, 'length', 'mm', { precision: 5 })).toBe('12.34567 mm');
    expect(shown(12.6, 'length', 'mm', { precision: 0 })).toBe('13 mm');
  });

  test('inches as fractions to 1/64, in feet; what is not a fraction says so', () => {
    const fraction = { inches: 'fraction' as const };
    expect(shown(25.4 * 1.375, 'length', 'in', fraction)).toBe('1 3/8 in');
    expect(shown(25.4 / 64, 'length', 'in', fraction)).toBe('1/64 in');
    expect(shown(25.4 * 3, 'length', 'in', fraction)).toBe('3 in');
    expect(shown(10, 'length', 'in', fraction)).toBe('≈ 25/64 in');
    expect(shown(0, 'length', 'in', fraction)).toBe('0 in');
    expect(shown(-25.4 * 27.5, 'length', 'in', { inches: 'feet' })).toBe('−2′ 3 1/2″');
    expect(shown(304.8, 'length', 'in', { inches: 'feet' })).toBe('1′ 0″');
    // A carry: 11 63.9/64 in is a foot.
    expect(shown(25.4 * 11.999, 'length', 'in', { inches: 'feet' })).toBe('≈ 1′ 0″');
  });

  test('angles in degrees, in degrees, minutes and seconds, and in radians', () => {
    const rad = (45.5 * Math.PI) / 180;
    expect(shown(rad, 'angle', 'mm')).toBe('45.500 °');
    expect(shown(rad, 'angle', 'mm', { angles: 'minutes' })).toBe('45° 30′ 00.00″');
    expect(shown(-rad / 100, 'angle', 'mm', { angles: 'minutes' })).toBe('−0° 27′ 18.00″');
    expect(shown((59.999999 / 60 / 180) * Math.PI, 'angle', 'mm', { angles: 'minutes' })).toBe(
      '1° 00′ 00.00″'.replace('1°', '1°'),
    );
    expect(shown(rad, 'angle', 'mm', { angles: 'radians' })).toBe('0.79412 rad');
  });

  test('points are told in the same way', () => {
    expect(
      valueText({ kind: 'point', value: [25.4, 0, -12.7] }, { ...plainStyle('in'), inches: 'fraction' }),
    ).toEqual({
      text: '1  0  −1/2',
      unit: 'in',
    });
  });
});
