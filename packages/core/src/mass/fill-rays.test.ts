import fc from 'fast-check';
import { IDENTITY, type Mat4 } from '../math/mat4.ts';
import { vecOf } from '../math/vec3.ts';
import { boxPart } from '../testing/box-part.ts';
import { placed } from '../testing/placed.ts';
import { hollowsOf, overlapOf, type RayMesh } from './fill-rays.ts';
import { massWithin } from './mass-within.ts';

const at = (x: number, y: number, z: number): Mat4 => [...IDENTITY.slice(0, 12), x, y, z, 1];
const block = (size: [number, number, number], place: Mat4): RayMesh => ({ ...boxPart(...size).mesh, place });
/** Six plates that close a hollow of 20 × 30 × 40 from 5 to 25, 35, 45. */
const chest = (): RayMesh[] => [
  block([30, 40, 5], at(0, 0, 0)),
  block([30, 40, 5], at(0, 0, 45)),
  block([5, 40, 40], at(0, 0, 5)),
  block([5, 40, 40], at(25, 0, 5)),
  block([20, 5, 40], at(5, 0, 5)),
  block([20, 5, 40], at(5, 35, 5)),
];

test('what two blocks share is taken off once, three times two of three that share all; what only touches shares nothing', () => {
  const { volume, moment, within } = overlapOf([
    block([10, 10, 10], IDENTITY),
    block([10, 10, 10], at(7, 6, 5)),
  ]);
  // 3 × 4 × 5 at (8.5, 8, 7.5).
  expect(Math.abs(volume - 60)).toBeLessThan(Math.max(within, 1.5));
  expect(within).toBeLessThan(10);
  moment.forEach((m, k) => expect(m / volume).toBeCloseTo([8.5, 8, 7.5][k], 1));
  expect(overlapOf([0, 0, 0].map(() => block([10, 10, 10], IDENTITY))).volume / 2000).toBeCloseTo(1, 1);
  expect(overlapOf([block([10, 10, 10], IDENTITY), block([10, 10, 10], at(10, 0, 0))]).volume).toBeLessThan(
    1e-9,
  );
  // Mirrored placements are solids too.
  const mirrored: Mat4 = [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 10, 0, 0, 1];
  expect(overlapOf([block([10, 10, 10], IDENTITY), block([10, 10, 10], mirrored)]).volume / 1000).toBeCloseTo(
    1,
    1,
  );
});

test('a hollow closed by six plates is found with its volume and place; with one plate gone there is none', () => {
  const { hollows } = hollowsOf(chest());
  expect(hollows).toHaveLength(1);
  const [{ volume, centre, within }] = hollows;
  expect(Math.abs(volume - 24_000)).toBeLessThan(within);
  expect(within).toBeLessThan(2500);
  centre.forEach((x, k) => expect(x).toBeCloseTo([15, 20, 25][k], 0));
  expect(hollowsOf(chest().slice(1)).hollows).toEqual([]);
});

test('what rays tell of an overlap is within its bound: blocks anyhow to each other, against one cut by the sides of the other', () => {
  const size = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: 3, max: 20, noNaN: true })));
  const angle = fc.double({ min: 0, max: 2, noNaN: true });
  let exceeded = 0;
  fc.assert(
    fc.property(
      size,
      size,
      fc.tuple(angle, angle, angle),
      fc.boolean(),
      ([a, b, c], [d, e, f], [x, y, z], square) => {
        const place = square ? at(2 * x, 2 * y, 2 * z) : (placed([x, y, z], [2, 3, 1]) as Mat4);
        const [one, other] = [block([a, b, c], IDENTITY), block([d, e, f], place)];
        const sides = [0, 1, 2].flatMap((k) =>
          [1, -1].map((sign) => ({
            normal: vecOf((i) => (i === k ? -sign : 0)),
            constant: sign > 0 ? 0 : [a, b, c][k],
          })),
        );
        const truth = massWithin(other, place, sides)?.volume ?? 0;
        const { volume, within } = overlapOf([one, other]);
        if (Math.abs(volume - truth) > within + 1e-9) exceeded++;
      },
    ),
    { numRuns: 40 },
  );
  expect(exceeded).toBe(0);
});
