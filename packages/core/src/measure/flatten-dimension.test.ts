import fc from 'fast-check';
import type { ViewCamera } from '../camera/view-camera.ts';
import { lookFrom, rotate } from '../math/quaternion.ts';
import { cross, distance, dot, normalize, subtract, type Vec3 } from '../math/vec3.ts';
import { dimensionMarks } from './dimension-marks.ts';
import { arcOfAngle, endsOfRound } from './dimension-shape.ts';

/** Looks down Z at 1 px a millimetre: model (x, y) is at (200 + x, 150 − y). */
const camera: ViewCamera = {
  projection: 'orthographic',
  target: [0, 0, 0],
  orientation: [0, 0, 0, 1],
  height: 300,
  lens: 0.5,
};
const size = { width: 400, height: 300 };
const marksOf = (drawn: Parameters<typeof dimensionMarks>[0][number]) =>
  dimensionMarks([drawn], camera, size, [0, 0, 0])[0];
const real = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const direction = fc
  .tuple(real(-1, 1), real(-1, 1), real(-1, 1))
  .filter((v) => Math.hypot(...v) > 0.2)
  .map((v) => normalize(v as Vec3));

test('an angle: an arc of one size on the screen between its two directions, arrowheads at both ends, the text beyond it', () => {
  const marks = marksOf({
    key: 'a',
    kind: 'angle',
    text: '90°',
    at: [10, 20, 0],
    ways: [
      [1, 0, 0],
      [0, 1, 0],
    ],
    angle: Math.PI / 2,
    reach: 0,
  });
  const corner = [210, 130];
  const arc = marks.lines.slice(0, -2);
  for (const [p] of arc) expect(Math.hypot(p[0] - corner[0], p[1] - corner[1])).toBeCloseTo(68, 6);
  expect(marks.arrows.map(([tip]) => tip.map(Math.round))).toEqual([
    [278, 130],
    [210, 62],
  ]);
  // Between the two, outside the arc.
  expect(marks.label!.x).toBeGreaterThan(210 + 48);
  expect(marks.label!.y).toBeLessThan(130 - 48);
});

test('the arc of an angle runs from the one direction to the other, also the long way round', () => {
  fc.assert(
    fc.property(direction, direction, fc.boolean(), (a, b, long) => {
      const between = Math.acos(Math.max(-1, Math.min(1, dot(a, b))));
      fc.pre(between > 0.01 && between < Math.PI - 0.01);
      const angle = long ? 2 * Math.PI - between : between;
      const points = arcOfAngle({ kind: 'angle', at: [1, 2, 3], ways: [a, b], angle, reach: 0 }, 5);
      expect(distance(points[0], [1 + 5 * a[0], 2 + 5 * a[1], 3 + 5 * a[2]])).toBeCloseTo(0, 9);
      expect(distance(points.at(-1)!, [1 + 5 * b[0], 2 + 5 * b[1], 3 + 5 * b[2]])).toBeCloseTo(0, 6);
      const middle = normalize(subtract(points[12], [1, 2, 3]));
      const inside = normalize([a[0] + b[0], a[1] + b[1], a[2] + b[2]]);
      expect(dot(middle, inside)).toBeCloseTo(long ? -1 : 1, 6);
    }),
  );
});

test('a diameter lies in its circle and is seen in its full length from anywhere', () => {
  fc.assert(
    fc.property(direction, direction, (axis, toEye) => {
      const orientation = lookFrom(toEye, Math.abs(toEye[2]) > 0.9 ? [0, 1, 0] : [0, 0, 1]);
      const [right, up] = [rotate(orientation, [1, 0, 0]), rotate(orientation, [0, 1, 0])];
      const [p, q] = endsOfRound(
        { kind: 'round', centre: [1, 2, 3], axis, radius: 4, towards: null },
        toEye,
        right,
        up,
      );
      expect(distance(p, q)).toBeCloseTo(8, 9);
      // Square to the line of sight, and to the axis unless that is nearly the line of sight.
      const way = subtract(q, p);
      expect(Math.abs(dot(way, toEye))).toBeLessThan(1e-9);
      if (Math.hypot(...cross(axis, toEye)) > 0.06) expect(Math.abs(dot(way, axis))).toBeLessThan(1e-9);
      expect(dot(way, right)).toBeGreaterThan(-1e-9);
    }),
  );
});

test('a wide circle has its arrowheads within, a small one without; of an arc the line runs from the centre to it', () => {
  const round = (radius: number, towards: Vec3 | null = null) =>
    marksOf({ key: 'r', kind: 'round', text: 'Ø', centre: [0, 0, 0], axis: [0, 1, 0], radius, towards });
  const wide = round(50);
  expect(wide.arrows.map(([tip]) => tip.map(Math.round))).toEqual([
    [250, 150],
    [150, 150],
  ]);
  expect(wide.arrows[0][1][0]).toBeLessThan(250);
  const small = round(5);
  expect(small.arrows[0][1][0]).toBeGreaterThan(205);
  expect(small.lines[0][0][0]).toBeLessThan(195);
  const arc = round(50, [0, 0, 1]);
  expect(arc.arrows).toHaveLength(1);
});

test('a dimension that was moved stands farther off, its text along the line; others go where they are put', () => {
  const ends: [Vec3, Vec3] = [
    [-50, 40, 0],
    [50, 40, 0],
  ];
  const still = marksOf({ key: 'd', kind: 'dimension', text: '100', ends });
  const moved = marksOf({ key: 'd', kind: 'dimension', text: '100', ends, moved: [20, 70] });
  expect(moved.label!.y).toBeCloseTo(still.label!.y - 20, 6);
  expect(moved.label!.x).toBeCloseTo(still.label!.x + 70, 6);
  // Its line goes on to the text.
  expect(moved.lines[2][1][0]).toBeCloseTo(270, 6);
  // Drawn back over the thing to its other side, the extension lines turn round.
  const other = marksOf({ key: 'd', kind: 'dimension', text: '100', ends, moved: [-80, 0] });
  expect(other.lines[0][0][1]).toBeGreaterThan(110);
  const [one, two] = still.axes;
  expect([one, two]).toEqual([
    [expect.closeTo(0, 9), -1],
    [1, expect.closeTo(0, 9)],
  ]);
  const pointed = marksOf({
    key: 'p',
    kind: 'pointed',
    text: 'x',
    ends: [
      [0, 0, 0],
      [0, 0, 0],
    ],
    moved: [5, 7],
  });
  expect([pointed.label!.x, pointed.label!.y]).toEqual([200 + 34 + 5, 150 - 34 - 7]);
});
