import fc from 'fast-check';
import { cross, length, map3, normalize, subtract, type Vec3 } from './vec3.ts';
import {
  belowAll,
  belowOfTetrahedron,
  belowOfTriangle,
  cutTriangle,
  heightOver,
  opposite,
  planeThrough,
  takesPoint,
  throughPlane,
  type Plane,
  type Tetrahedron,
} from './plane.ts';

/*
 * The ways in which planes cut agree with each other: each is written for other things,
 * all must leave the same.
 */

const number = fc.double({ min: -10, max: 10, noNaN: true });
const point: fc.Arbitrary<Vec3> = fc.tuple(number, number, number);
const plane: fc.Arbitrary<Plane> = fc
  .tuple(point, point)
  .filter(([, n]) => length(n) > 0.1)
  .map(([p, n]) => planeThrough(p, normalize(n)));
const triangle = fc.tuple(point, point, point);

const areaOf = ([first, ...rest]: readonly Vec3[]): number =>
  rest
    .slice(1)
    .reduce((sum, c, i) => sum + length(cross(subtract(rest[i], first), subtract(c, first))) / 2, 0);
const areaOfAll = (corners: readonly Vec3[]): number =>
  Array.from({ length: corners.length / 3 }, (_, t) => areaOf(corners.slice(3 * t, 3 * t + 3))).reduce(
    (a, b) => a + b,
    0,
  );
const volumeOf = ([a, b, c, d]: Tetrahedron): number => {
  const [u, v, w] = [subtract(b, a), subtract(c, a), subtract(d, a)];
  const n = cross(u, v);
  return Math.abs(n[0] * w[0] + n[1] * w[1] + n[2] * w[2]) / 6;
};

test('a polygon falls into what is below and what is above, whichever function cuts it', () => {
  fc.assert(
    fc.property(triangle, plane, (corners, by) => {
      const whole = areaOf(corners);
      const below = areaOf(belowAll(corners, [by]));
      expect(below + areaOf(belowAll(corners, [opposite(by)]))).toBeCloseTo(whole, 8);
      expect(areaOfAll(cutTriangle(corners, { planes: [by], combine: 'any' }))).toBeCloseTo(below, 8);
      const flat = Float64Array.from(corners.flat());
      const out = new Float64Array(16);
      const n = belowOfTriangle(
        flat,
        0,
        Float64Array.from(corners, (p) => heightOver(by, p)),
        out,
      );
      expect(areaOf(Array.from({ length: n }, (_, i) => map3(out.subarray(4 * i), (x) => x)))).toBeCloseTo(
        below,
        8,
      );
      const line = throughPlane(corners, by);
      for (const end of line ? [line.up, line.down] : []) expect(heightOver(by, end)).toBeCloseTo(0, 8);
    }),
  );
});

test('two planes that take together leave what each of them leaves', () => {
  fc.assert(
    fc.property(triangle, plane, plane, (corners, one, other) => {
      const whole = areaOf(corners);
      const gone = areaOf(belowAll(corners, [opposite(one), opposite(other)]));
      const pieces = cutTriangle(corners, { planes: [one, other], combine: 'all' });
      expect(areaOfAll(pieces)).toBeCloseTo(whole - gone, 7);
      for (let t = 0; t < pieces.length; t += 3) {
        const its = pieces.slice(t, t + 3);
        if (areaOf(its) < 1e-6) continue;
        const middle = map3([0, 1, 2], (k) => (its[0][k] + its[1][k] + its[2][k]) / 3);
        const nearest = Math.min(...[one, other].map((p) => Math.abs(heightOver(p, middle))));
        if (nearest > 1e-6) expect(takesPoint({ planes: [one, other], combine: 'all' }, middle)).toBe(false);
      }
    }),
  );
});

test('a tetrahedron falls into two', () => {
  fc.assert(
    fc.property(fc.tuple(point, point, point, point), plane, (corners, by) => {
      const parts = [by, opposite(by)].flatMap((p) => belowOfTetrahedron(corners, p));
      expect(parts.reduce((sum, t) => sum + volumeOf(t), 0)).toBeCloseTo(volumeOf(corners), 7);
    }),
  );
});
