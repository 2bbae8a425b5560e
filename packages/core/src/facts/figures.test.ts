import { planeFrame } from '../section/mesh/cap-of-loops.ts';
import { sectionProperties } from '../section/section-properties.ts';
import type { Hole } from '../geometry/hole.ts';
import { HOLE_FIGURES } from './hole-facts.ts';
import { plainFigures } from './plain-figures.ts';
import { sectionFacts } from './section-facts.ts';

test('a section tells its figures in one list: a rectangle of b × h has b·h³/12, b³·h/12 and no product', () => {
  const [b, h] = [30, 20];
  const corners: [number, number][] = [
    [0, 0],
    [b, 0],
    [b, h],
    [0, h],
  ];
  const frame = planeFrame({ normal: [0, 0, 1], constant: 7 });
  const told = plainFigures(sectionFacts(sectionProperties([corners])!, frame));
  const of = (name: string) => told.find((f) => f.name === name)!;
  expect(of('Area')).toMatchObject({ value: b * h, unit: 'mm²' });
  expect(of('Ix')).toMatchObject({ value: expect.closeTo((b * h ** 3) / 12, 8), unit: 'mm⁴' });
  expect(of('Iy').value).toBeCloseTo((b ** 3 * h) / 12, 8);
  expect(of('Ixy').value).toBeCloseTo(0, 8);
  expect(of('Radius of gyration x').value).toBeCloseTo(h / Math.sqrt(12), 10);
  expect(of('Centroid z')).toMatchObject({ value: 7, unit: 'mm' });
  expect(new Set(told.map((f) => f.name)).size).toBe(told.length);
});

test('what a hole has not is left out, and what it has is told once', () => {
  const hole: Hole = {
    faces: [0],
    diameter: 9,
    depth: 12,
    start: [0, 0, 0],
    axis: [0, 0, 1],
    ends: 'blind',
    steps: [
      { kind: 'drill point', diameter: 9, depth: 2.6, angle: (118 / 180) * Math.PI, side: 'far', faces: [] },
    ],
    opensInto: [],
    accuracy: { kind: 'exact' },
  };
  const told = (h: Hole) =>
    plainFigures(HOLE_FIGURES.map(({ label, of }) => ({ label, value: of(h, 'mm') })));
  expect(told(hole)).toEqual([
    { name: 'Diameter', value: 9, unit: 'mm' },
    { name: 'Depth', value: 12, unit: 'mm' },
    { name: 'Ends', value: 'blind', unit: '' },
    { name: 'Steps', value: 'drill point 118° Ø9 × 2.6', unit: '' },
    { name: 'Likely', value: 'fit bore of 9', unit: '' },
  ]);
  const leaning = { ...hole, along: { least: 11, greatest: 13 } };
  expect(told(leaning).map((f) => f.value)).toEqual(expect.arrayContaining([11, 13]));
});
