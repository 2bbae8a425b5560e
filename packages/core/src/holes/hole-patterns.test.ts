import type { Hole } from '../geometry/hole.ts';
import { patternOf } from './hole-patterns.ts';
import { likelyFor } from './likely-for.ts';
import { add, frameOf, normalize, scale, type Vec3 } from '../math/vec3.ts';

const AXIS = normalize([1, 2, -2]);
const FAR: Vec3 = [4000, -900, 70];

/** Holes at places of a tilted plane far from the origin; mm. */
function holesAt(places: readonly (readonly [number, number])[], diameter = 6.6): Hole[] {
  const { u, v } = frameOf(AXIS);
  return places.map(([x, y], i) => ({
    faces: [i],
    diameter,
    depth: 10,
    start: add(FAR, add(scale(u, x), scale(v, y))),
    axis: AXIS,
    ends: 'through',
    steps: [],
    opensInto: [],
    accuracy: { kind: 'exact' },
  }));
}

const onCircle = (count: number, radius: number, from = 0.3): [number, number][] =>
  Array.from({ length: count }, (_, i) => [
    radius * Math.cos(from + (2 * Math.PI * i) / count),
    radius * Math.sin(from + (2 * Math.PI * i) / count),
  ]);
/** Repeatable noise of a few micrometres. */
const noisy = (places: [number, number][]): [number, number][] =>
  places.map(([x, y], i) => [x + 0.004 * Math.sin(7 * i + 1), y + 0.004 * Math.cos(5 * i)]);

test.each([3, 4, 6, 13])('%i holes at equal angles are a bolt circle, with noise too', (count) => {
  for (const places of [onCircle(count, 51), noisy(onCircle(count, 51))]) {
    const found = patternOf(holesAt(places), 1)!;
    expect(found).toMatchObject({
      kind: 'circle',
      pitchDiameter: expect.closeTo(102, 1),
      spacing: expect.closeTo((2 * Math.PI) / count, 6),
    });
    expect(found.holes).toHaveLength(count);
    expect(found.deviation).toBeLessThan(0.01);
  }
});

test('holes of two circles and of another size are told apart; what is not at equal angles says so', () => {
  const holes = [...holesAt(onCircle(8, 40)), ...holesAt(onCircle(6, 70)), ...holesAt(onCircle(5, 40, 1), 9)];
  expect(patternOf(holes, 2)).toMatchObject({ kind: 'circle', pitchDiameter: expect.closeTo(80, 6) });
  expect(patternOf(holes, 2)!.holes.sort((a, b) => a - b)).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
  expect(patternOf(holes, 9)!.holes).toHaveLength(6);
  expect(patternOf(holes, 15)!.holes).toHaveLength(5);
  const gap = holesAt(onCircle(8, 40).slice(0, 6));
  expect(patternOf(gap, 0)).toMatchObject({ kind: 'circle', spacing: null });
});

test('rows and grids: pitch and count; four in a rectangle are a grid, four in a square as well as on a circle', () => {
  const row = Array.from({ length: 5 }, (_, i): [number, number] => [12.5 * i * 0.6, 12.5 * i * 0.8]);
  expect(patternOf(holesAt(noisy(row)), 3)).toMatchObject({
    kind: 'row',
    pitch: expect.closeTo(12.5, 2),
    holes: expect.arrayContaining([0, 1, 2, 3, 4]),
  });
  const grid = [0, 1, 2].flatMap((i) => [0, 1].map((j): [number, number] => [30 * i, 18 * j]));
  expect(patternOf(holesAt(grid), 0)).toMatchObject({
    kind: 'grid',
    counts: expect.arrayContaining([2, 3]),
    pitches: expect.arrayContaining([expect.closeTo(30, 6), expect.closeTo(18, 6)]),
  });
  expect(
    patternOf(
      holesAt([
        [0, 0],
        [40, 0],
        [40, 25],
        [0, 25],
      ]),
      0,
    ),
  ).toMatchObject({ kind: 'grid', counts: [2, 2] });
});

test('without order there is no pattern', () => {
  expect(
    patternOf(
      holesAt([
        [0, 0],
        [10, 3],
      ]),
      0,
    ),
  ).toBeNull();
  expect(
    patternOf(
      holesAt([
        [0, 0],
        [10, 3],
        [4, 21],
      ]),
      0,
    ),
  ).toBeNull();
  expect(
    patternOf(
      holesAt([
        [0, 0],
        [10, 3],
        [4, 21],
        [-17, 8],
      ]),
      0,
    ),
  ).toBeNull();
});

test('what a hole is likely for, by ISO 273 and ISO 261 (values from memory)', () => {
  const uses = (diameter: number, ...steps: Partial<Hole['steps'][number]>[]) =>
    likelyFor({ diameter, steps: steps as Hole['steps'] }).map((l) => l.use);
  expect(uses(6.6)).toEqual(['clearance hole for M6']);
  expect(uses(6.6, { kind: 'counterbore', diameter: 11 })).toEqual(['clearance hole for M6, socket head']);
  expect(uses(5.5, { kind: 'countersink', diameter: 11 })).toEqual([
    'clearance hole for M5, countersunk head',
  ]);
  expect(uses(4.2)).toEqual(['tapping drill for M5']);
  // Two rules know it: both are offered.
  expect(uses(10.5)).toEqual(['clearance hole for M10']);
  expect(uses(12)).toEqual(['clearance hole for M10', 'tapping drill for M14']);
  expect(uses(40)).toEqual(['fit bore of 40']);
  expect(uses(8.1)).toEqual([]);
});
