import fc from 'fast-check';
import { rotate, rotationAbout } from '../math/quaternion.ts';
import { add, distance, normalize, type Vec3 } from '../math/vec3.ts';
import { measureThreePoints } from './three-points.ts';

const real = (min: number, max: number) => fc.double({ min, max, noNaN: true });

test('a right triangle of 3, 4 and 5: 90° at the corner, the circle over the longest side, 6 mm²', () => {
  const { lead, rows } = measureThreePoints([3, 0, 0], [0, 0, 0], [0, 4, 0])!;
  expect(lead.value.value).toBeCloseTo(Math.PI / 2, 12);
  expect(rows.map((r) => r.value.value)).toEqual([expect.closeTo(5, 12), [1.5, 2, 0], expect.closeTo(6, 12)]);
});

test('points of a circle have that circle, wherever it lies; the angle over a chord is half of that at the centre', () => {
  fc.assert(
    fc.property(
      real(1, 50),
      real(0.3, 2.8),
      real(0.3, 2.8),
      real(0, 6),
      fc.tuple(real(-1, 1), real(-1, 1), real(0.2, 1)),
      (r, s, t, turn, axis) => {
        const q = rotationAbout(normalize(axis as Vec3), turn);
        const place = (angle: number): Vec3 =>
          add(rotate(q, [r * Math.cos(angle), r * Math.sin(angle), 0]), [7, -3, 11]);
        const [a, b, c] = [place(0), place(s), place(s + t)];
        const { lead, rows } = measureThreePoints(a, b, c)!;
        // Inscribed angle theorem (Euclid III.20): from the arc that does not hold b.
        expect(lead.value.value).toBeCloseTo((2 * Math.PI - s - t) / 2, 8);
        expect(rows[0].value.value as number).toBeCloseTo(2 * r, 6);
        expect(distance(rows[1].value.value as Vec3, [7, -3, 11])).toBeLessThan(1e-6);
      },
    ),
  );
});

test('on one line there is no circle; of two that are one there is nothing', () => {
  expect(measureThreePoints([0, 0, 0], [1, 1, 1], [3, 3, 3])).toMatchObject({
    lead: { value: { value: Math.PI } },
    rows: [],
  });
  expect(measureThreePoints([0, 0, 0], [0, 0, 0], [3, 3, 3])).toBeNull();
});
