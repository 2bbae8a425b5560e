import { IDENTITY, type Mat4 } from '../math/mat4.ts';
import { boxPart } from '../testing/box-part.ts';
import { hollowsOf, overlapOf, type RayMesh } from './fill-rays.ts';

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
  const { volume, moment, within } = overlapOf([block([10, 10, 10], IDENTITY), block([10, 10, 10], at(7, 6, 5))]);
  // 3 × 4 × 5 at (8.5, 8, 7.5).
  expect(Math.abs(volume - 60)).toBeLessThan(Math.max(within, 1.5));
  expect(within).toBeLessThan(6);
  moment.forEach((m, k) => expect(m / volume).toBeCloseTo([8.5, 8, 7.5][k], 1));
  expect(overlapOf([0, 0, 0].map(() => block([10, 10, 10], IDENTITY))).volume / 2000).toBeCloseTo(1, 1);
  expect(overlapOf([block([10, 10, 10], IDENTITY), block([10, 10, 10], at(10, 0, 0))]).volume).toBeLessThan(1e-9);
  // Mirrored placements are solids too.
  const mirrored: Mat4 = [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 10, 0, 0, 1];
  expect(overlapOf([block([10, 10, 10], IDENTITY), block([10, 10, 10], mirrored)]).volume / 1000).toBeCloseTo(1, 1);
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
