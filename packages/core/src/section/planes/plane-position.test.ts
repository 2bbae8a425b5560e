import fc from 'fast-check';
import { normalize, scale, type Vec3 } from '../../math/vec3.ts';
import { offsetAt, planeInBox, planePosition } from './plane-position.ts';

const number = fc.double({ min: -1e4, max: 1e4, noNaN: true });

test.each<[Vec3, 0 | 1 | 2]>([
  [[1, 0, 0], 0],
  [[0, -1, 0], 1],
  [[0, 0, 1], 2],
])('a plane across an axis is where its coordinate says, whichever side it faces: %p', (normal, axis) => {
  fc.assert(
    fc.property(fc.tuple(number, number, number), number, number, (origin, offset, at) => {
      const plane = { origin, normal, offset };
      expect(planePosition(plane)).toEqual({
        axis,
        at: expect.closeTo(origin[axis] + normal[axis] * offset, 9),
      });
      expect(planePosition({ ...plane, offset: offsetAt(plane, at) }).at).toBeCloseTo(at, 9);
    }),
  );
});

test('a plane across an axis of a reference system is told by its coordinate there', () => {
  const x = normalize([3, 4, 0]);
  const system = { origin: [10, 20, 30] as Vec3, x, y: [-x[1], x[0], 0] as Vec3, z: [0, 0, 1] as Vec3 };
  const plane = { origin: [13, 24, 7] as Vec3, normal: scale(x, -1), offset: 2 };
  expect(planePosition(plane, system)).toEqual({ axis: 0, at: expect.closeTo(5 - 2, 12) });
  expect(planePosition(plane)).toEqual({ axis: null, at: 2 });
  expect(planePosition({ ...plane, offset: offsetAt(plane, -8, system) }, system).at).toBeCloseTo(-8, 12);
});

test('a leaning plane is told by its offset', () => {
  const plane = { origin: [1, 2, 3] as Vec3, normal: normalize([1, 1, 0]), offset: 4 };
  expect(planePosition(plane)).toEqual({ axis: null, at: 4 });
  expect(offsetAt(plane, 7)).toBe(7);
});

test('a plane meets the edges of a box it goes through', () => {
  const box = { min: [0, 0, 0] as Vec3, max: [2, 4, 6] as Vec3 };
  expect(planeInBox({ origin: [0, 0, 1], normal: [0, 0, 1], offset: 1 }, box)).toEqual(
    expect.arrayContaining([
      [0, 0, 2],
      [2, 0, 2],
      [0, 4, 2],
      [2, 4, 2],
    ]),
  );
  expect(planeInBox({ origin: [0, 0, 7], normal: [0, 0, 1], offset: 0 }, box)).toEqual([]);
  // Through the middle, square to the space diagonal of a cube: a regular hexagon.
  const cube = { min: [0, 0, 0] as Vec3, max: [2, 2, 2] as Vec3 };
  const corners = planeInBox({ origin: [1, 1, 1], normal: normalize([1, 1, 1]), offset: 0 }, cube);
  expect(corners).toHaveLength(6);
  for (const c of corners) expect(Math.hypot(...c.map((x) => x - 1))).toBeCloseTo(Math.SQRT2, 12);
});
