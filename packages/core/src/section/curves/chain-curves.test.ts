import type { Point2 } from '../../math/point2.ts';
import fc from 'fast-check';
import { chainCurves } from './chain-curves.ts';
import { propertiesOfCurves, reverseCurve, splitCurve, type PlaneCurve } from './plane-curves.ts';
import { isWithinCurves } from './within-curves.ts';

const circle = (x: number, y: number, radius: number, from = 0): PlaneCurve => ({
  shape: 'arc',
  centre: [x, y],
  radius,
  from,
  to: from + 2 * Math.PI,
});
const polygon = (...points: Point2[]): PlaneCurve[] =>
  points.map((from, i): PlaneCurve => ({ shape: 'line', from, to: points[(i + 1) % points.length] }));
const square = (x: number, y: number, size: number): PlaneCurve[] =>
  polygon([x, y], [x + size, y], [x + size, y + size], [x, y + size]);
const areaOf = (curves: PlaneCurve[]): number => {
  const { loops, open } = chainCurves(curves, 1e-6);
  expect(open).toEqual([]);
  return propertiesOfCurves(loops)!.area;
};

test.each([1e-1, 1e-2, 1e-3, 1e-4])('a ring is a ring however thin its wall: %d of the radius', (wall) => {
  const inner = 50 * (1 - wall);
  // Closed form: π(R² − r²).
  const area = Math.PI * (50 - inner) * (50 + inner);
  for (const [first, second] of [
    [0, 0],
    [1, 2],
    [0.3, 3.5],
  ]) {
    const outer = circle(3, 4, 50, first);
    expect(areaOf([circle(3, 4, inner, second), outer]) / area).toBeCloseTo(1, 9);
    expect(areaOf([reverseCurve(outer), circle(3, 4, inner, second)]) / area).toBeCloseTo(1, 9);
    // The outer one in two halves, as files have it.
    const halves = splitCurve(outer, [0.2, 1, 4]).map((s) => s.piece);
    expect(areaOf([...halves, circle(3, 4, inner, second)]) / area).toBeCloseTo(1, 9);
  }
});

test('a tube of Ø100 with a wall of 1 mm has 311.018 mm²', () => {
  expect(areaOf([circle(0, 0, 50), circle(0, 0, 49)])).toBeCloseTo(Math.PI * 99, 9);
});

test('loops within loops within loops: every second one is material', () => {
  const radii = [50, 49.99, 49.98, 30, 29.999, 1];
  const area = radii.reduce((sum, r, i) => sum + (i % 2 ? -1 : 1) * Math.PI * r * r, 0);
  expect(areaOf(radii.map((r, i) => circle(0, 0, r, i)))).toBeCloseTo(area, 8);
});

test('outlines that touch do not cross: at a corner, from within, and along a tangent', () => {
  // Two squares at a common corner.
  expect(areaOf([...square(0, 0, 10), ...square(10, 10, 10)])).toBeCloseTo(200, 9);
  // A square hole whose corner touches the outer corner.
  expect(areaOf([...square(0, 0, 10), ...square(0, 0, 4)].filter((_, i) => i < 8))).toBeCloseTo(100 - 16, 9);
  // A round hole that touches the edge from within, and a disc that touches it from without.
  expect(areaOf([...square(0, 0, 10), circle(5, 2, 2)])).toBeCloseTo(100 - 4 * Math.PI, 9);
  expect(areaOf([...square(0, 0, 10), circle(5, -2, 2, 1)])).toBeCloseTo(100 + 4 * Math.PI, 9);
  // Circles that touch from within.
  expect(areaOf([circle(0, 0, 5), circle(3, 0, 2)])).toBeCloseTo(21 * Math.PI, 9);
});

test('rings of any wall, place, start and order agree with their closed form; a point between the circles is within the outer one only', () => {
  const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  fc.assert(
    fc.property(
      number(-4, 0),
      number(-100, 100),
      number(-100, 100),
      number(0, 7),
      number(0, 7),
      fc.boolean(),
      (exponent, x, y, a, b, turned) => {
        const inner = 10 * (1 - 0.5 * 10 ** exponent);
        const curves = [circle(x, y, 10, a), circle(x, y, inner, b)];
        const area = Math.PI * (10 - inner) * (10 + inner);
        expect(areaOf(turned ? curves.reverse().map(reverseCurve) : curves) / area).toBeCloseTo(1, 8);
        const between: Point2 = [
          x + ((10 + inner) / 2) * Math.cos(a + 1),
          y + ((10 + inner) / 2) * Math.sin(a + 1),
        ];
        expect(curves.filter((c) => isWithinCurves(between, [c]))).toHaveLength(1);
      },
    ),
  );
});

test('a gap that was joined is told', () => {
  const [first, ...rest] = square(0, 0, 10);
  const moved: PlaneCurve = { ...first, shape: 'line', from: [0.0005, 0], to: [10, 0] };
  expect(chainCurves([moved, ...rest], 1e-3).gap).toBeCloseTo(5e-4, 9);
  expect(chainCurves(square(0, 0, 10), 1e-3).gap).toBe(0);
});
