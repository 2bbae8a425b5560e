import { deviationsOf, NoSuchClass, readClass } from './iso-286.ts';
import { keepsWithin, limits, readTolerance, toleranceText } from './tolerance.ts';
import { writtenFigure, type KeptKind } from './kept-kind.ts';
import { readKeptFigure, verdictOf } from './kept-figure.ts';

/* Limits as ISO 286-2 prints them, from memory; micrometres, upper then lower. */
const PRINTED: readonly (readonly [size: number, written: string, upper: number, lower: number])[] = [
  [25, 'H7', 21, 0],
  [25, 'g6', -7, -20],
  [24, 'H7', 21, 0],
  [40, 'H7', 25, 0],
  [3, 'H7', 10, 0],
  [3.01, 'H7', 12, 0],
  [500, 'H11', 400, 0],
  [50, 'k6', 18, 2],
  [30, 'n6', 28, 15],
  [60, 'p6', 51, 32],
  [70, 's6', 78, 59],
  [60, 's6', 72, 53],
  [20, 'f7', -20, -41],
  [100, 'h6', 0, -22],
  [25, 'JS7', 10.5, -10.5],
  [25, 'js6', 6.5, -6.5],
  [30, 'K7', 6, -15],
  [30, 'M7', 0, -21],
  [30, 'N7', -7, -28],
  [30, 'P7', -14, -35],
  [60, 'R7', -30, -60],
  [18, 'E8', 59, 32],
  [50, 'D10', 180, 80],
  [280, 'M6', -9, -41],
  [10, 'K6', 2, -7],
  [25, 'N9', 0, -52],
  [25, 'K8', 10, -23],
  [16, 'u6', 44, 33],
  [110, 'c11', -180, -400],
  [12, 'a11', -290, -400],
  [45, 't6', 70, 54],
  [8, 'J7', 8, -7],
  [35, 'j6', 11, -5],
  [120, 'r6', 76, 54],
  [6, 'e9', -20, -50],
  [2, 'K7', 0, -10],
  [2, 'P9', -6, -31],
  [40, 'F8', 64, 25],
  [200, 'b12', -340, -800],
  [5, 'cd8', -46, -64],
  [8, 'EF7', 33, 18],
  [2, 'fg6', -4, -10],
  [20, 'v6', 60, 47],
  [40, 'x7', 105, 80],
  [60, 'Y8', -144, -190],
  [25, 'X7', -56, -77],
  [50, 'Z8', -136, -175],
  [10, 'zc9', 133, 97],
  [100, 'ZA7', -322, -357],
  [30, 'zb8', 193, 160],
  [5, 'js3', 1.25, -1.25],
  [5, 'JS3', 1.25, -1.25],
  [3, 'j8', 8, -6],
];

test.each(PRINTED)('%d %s has the limits that ISO 286-2 prints', (size, written, upper, lower) => {
  expect(deviationsOf(size, readClass(written)!)).toEqual({ upper: upper / 1000, lower: lower / 1000 });
});

test('grades follow the formulas of ISO 286-1: IT6 = 10 i, then by the fifth root of ten; i = 0.45 ∛D + 0.001 D, D the middle of the step', () => {
  const steps = [3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500];
  const factors: Record<number, number> = {
    6: 10,
    7: 16,
    8: 25,
    9: 40,
    10: 64,
    11: 100,
    12: 160,
    14: 400,
    16: 1000,
    18: 2500,
  };
  for (let s = 1; s < steps.length; s++) {
    const d = Math.sqrt(steps[s - 1] * steps[s]);
    const i = 0.45 * Math.cbrt(d) + 0.001 * d;
    for (const [grade, factor] of Object.entries(factors)) {
      const { upper } = deviationsOf(steps[s], { position: 'H', grade: Number(grade) });
      // What is printed is rounded, by less than a tenth.
      expect(Math.abs((1000 * upper) / (factor * i) - 1)).toBeLessThan(0.1);
    }
  }
});

test('deviations follow the formulas of ISO 286-1: cd, ef and fg between their neighbours, v to zc a grade and a share of the size', () => {
  const fine = [
    3, 6, 10, 14, 18, 24, 30, 40, 50, 65, 80, 100, 120, 140, 160, 180, 200, 225, 250, 280, 315, 355, 400, 450,
    500,
  ];
  const of = (size: number, position: string): number => {
    const { lower, upper } = deviationsOf(size, { position, grade: 6 });
    return 1000 * Math.min(Math.abs(lower), Math.abs(upper));
  };
  for (const size of fine.slice(0, 3))
    for (const [between, a, b] of [
      ['cd', 'c', 'd'],
      ['ef', 'e', 'f'],
      ['fg', 'f', 'g'],
    ])
      // Printed in whole micrometres.
      expect(Math.abs(of(size, between) - Math.sqrt(of(size, a) * of(size, b)))).toBeLessThan(2);
  const over: [string, number, number][] = [
    ['v', 7, 1.25],
    ['x', 7, 1.6],
    ['y', 7, 2],
    ['z', 7, 2.5],
    ['za', 8, 3.15],
    ['zb', 9, 4],
    ['zc', 10, 5],
  ];
  for (const [letter, grade, share] of over)
    for (let i = letter === 'v' ? 4 : letter === 'y' ? 5 : 3; i < fine.length; i++) {
      const width = 1000 * deviationsOf(fine[i], { position: 'H', grade }).upper;
      const expected = width + share * Math.sqrt(fine[i - 1] * fine[i]);
      // What is printed is rounded, za to zc to the next preferred number.
      expect(Math.abs(of(fine[i], letter) / expected - 1)).toBeLessThan(0.1);
    }
});

test('classes that the standard does not have, or not for that size, say so', () => {
  for (const [size, written, why] of [
    [25, 'H19', /grade IT19/],
    [25, 'q6', /no q6/],
    [25, 'fg6', /no fg6/],
    [12, 'v6', /no v6/],
    [18, 'y7', /no y7/],
    [20, 't6', /no t6/],
    [600, 'H7', /up to 500/],
    [0, 'H7', /above 0/],
    [25, 'K9', /no K9/],
    [25, 'j9', /no j9/],
  ] as const)
    expect(() => deviationsOf(size, readClass(written)!)).toThrow(
      expect.objectContaining({ message: expect.stringMatching(why), name: NoSuchClass.name }),
    );
});

test('tolerances are read as people write them', () => {
  const read = (text: string, nominal: number | null = 24) => readTolerance(text, 'length', 'mm', nominal);
  const bounds = (lower: number, upper: number) => ({
    tolerance: { kind: 'limits', lower: expect.closeTo(lower, 12), upper: expect.closeTo(upper, 12) },
  });
  expect(read('±0.1')).toEqual(bounds(-0.1, 0.1));
  expect(read('0,05')).toEqual(bounds(-0.05, 0.05));
  expect(read('+0.2/-0.1')).toEqual(bounds(-0.1, 0.2));
  expect(read('+0.2 −0.1')).toEqual(bounds(-0.1, 0.2));
  expect(read('0/-0.05')).toEqual(bounds(-0.05, 0));
  expect(read('+1/64 in')).not.toHaveProperty('tolerance.kind', 'class');
  expect(read('H7')).toEqual({ tolerance: { kind: 'class', of: { position: 'H', grade: 7 } } });
  expect(read('30 g6', null)).toEqual({
    tolerance: { kind: 'class', of: { position: 'g', grade: 6 } },
    nominal: 30,
  });
  const fit = read('40 H7/g6');
  expect(fit).toMatchObject({ tolerance: { kind: 'fit', size: 40 } });
  // 40 H7/g6: clearance from 9 to 50 µm, handbook value (from memory).
  const of = (fit as { tolerance: Parameters<typeof limits>[0] }).tolerance;
  expect(limits(of, 0)).toEqual({ least: expect.closeTo(0.009, 9), greatest: expect.closeTo(0.05, 9) });
  expect(toleranceText(of, String)).toBe('40 H7/g6');
  for (const [text, fault] of [
    ['-0.1/+0.2', /wrong way round/],
    ['q7', /no q7/],
    ['g6/H7', /./],
    ['about 2', /./],
    ['', /Write a tolerance/],
    ['-0.1', /not below 0/],
  ] as const)
    expect(read(text)).toEqual({ fault: expect.stringMatching(fault) });
  expect(readTolerance('H7', 'length', 'mm', null)).toEqual({ fault: expect.stringMatching(/nominal size/) });
});

test('what is written is in the unit shown, also for areas and angles; classes are for lengths', () => {
  const limitsIn = (text: string, kind: KeptKind, unit: 'mm' | 'in') => {
    const read = readTolerance(text, kind, unit, null);
    return 'tolerance' in read && read.tolerance.kind === 'limits' ? read.tolerance.upper : read;
  };
  expect(limitsIn('±0.01', 'length', 'in')).toBeCloseTo(0.254, 12);
  expect(limitsIn('±2', 'area', 'in')).toBeCloseTo(2 * 25.4 ** 2, 9);
  expect(limitsIn('±2', 'volume', 'in')).toBeCloseTo(2 * 25.4 ** 3, 8);
  expect(limitsIn('±0.5', 'angle', 'in')).toBeCloseTo((0.5 * Math.PI) / 180, 12);
  expect(readTolerance('2 H7', 'length', 'in', null)).toMatchObject({ nominal: 50.8 });
  expect(limitsIn('45 H7', 'angle', 'mm')).toEqual({ fault: expect.stringContaining('for lengths') });
  // And it is written as it was read.
  for (const [value, kind, unit, text] of [
    [25.4, 'length', 'in', '1'],
    [2 * 25.4 ** 2, 'area', 'in', '2'],
    [Math.PI / 6, 'angle', 'in', '30°'],
    [0.1 + 0.2, 'length', 'mm', '0.3'],
  ] as const)
    expect(writtenFigure(value, kind, unit)).toBe(text);
});

test('a kept figure says whether it keeps within its limits; what nobody wrote is nothing', () => {
  const stored = {
    id: 'a',
    name: 'Bore',
    of: [{ kind: 'component', component: 'Body' }],
    figure: 'Diameter',
    was: 24.01,
    revision: 2,
    nominal: 24,
  };
  const kept = readKeptFigure({ ...stored, tolerance: { kind: 'class', of: { position: 'H', grade: 7 } } })!;
  expect([24, 24.021, 24.0211, 23.999].map((x) => verdictOf(kept, x))).toEqual([
    'within',
    'within',
    'out',
    'out',
  ]);
  expect(verdictOf(readKeptFigure(stored)!, 99)).toBeNull();
  expect(verdictOf({ ...kept, nominal: 700 }, 700)).toBeNull();
  expect(keepsWithin(0.1 + 0.2, { least: 0, greatest: 0.3 })).toBe(true);
  expect(
    readKeptFigure({ ...stored, tolerance: { kind: 'class', of: { position: 'q', grade: 7 } } }),
  ).not.toHaveProperty('tolerance');
  for (const bad of [
    null,
    {},
    { ...stored, of: [] },
    { ...stored, of: [{ kind: 'face' }] },
    { ...stored, id: 3 },
  ])
    expect(readKeptFigure(bad)).toBeNull();
});

test('js of every grade and size is even on both sides', () => {
  for (let grade = 1; grade <= 18; grade++)
    for (const size of [2, 5, 9, 15, 25, 40, 70, 100, 150, 200, 300, 380, 450]) {
      const { lower, upper } = deviationsOf(size, { position: 'js', grade });
      expect([size, grade, lower]).toEqual([size, grade, -upper]);
    }
});

test('a, b and N of coarse grades are not for sizes up to 1 mm (ISO 286-1, from memory)', () => {
  for (const written of ['A9', 'a11', 'B10', 'b9', 'N9', 'N11']) {
    expect(() => deviationsOf(1, readClass(written)!)).toThrow(NoSuchClass);
    expect(() => deviationsOf(0.5, readClass(written)!)).toThrow(NoSuchClass);
    expect(deviationsOf(1.5, readClass(written)!).upper).toBeDefined();
  }
  expect(deviationsOf(0.8, readClass('N8')!)).toBeDefined();
  expect(() => deviationsOf(5, readClass('j8')!)).toThrow(NoSuchClass);
});
