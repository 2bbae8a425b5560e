import { IDENTITY, multiply, type Mat4 } from '../math/mat4.ts';
import type { PartGeometry } from '../geometry/part-geometry.ts';
import { buildPartBvh } from '../picking/pick-scene.ts';
import { boxPart } from '../testing/box-part.ts';
import { HATCHES, hatchPatterns, type Hatch } from './hatch-patterns.ts';

const at = (x: number, y: number, z: number): Mat4 => [...IDENTITY.slice(0, 12), x, y, z, 1];

/** Hatches by part of boxes: size and place of each, with the number of its part. */
function hatchesOf(
  ...boxes: [part: number, size: [number, number, number], place: [number, number, number], thin?: boolean][]
): Hatch[] {
  const made = new Map<number, PartGeometry>();
  const components = boxes.map(([part, size, place, thin]) => {
    const geometry = made.get(part) ?? made.set(part, boxPart(...size)).get(part)!;
    const { min, max } = geometry.box;
    const box = {
      min: min.map((x, k) => x - geometry.origin[k]),
      max: max.map((x, k) => x - geometry.origin[k]),
    };
    return {
      part,
      thin,
      placement: multiply(at(...place), at(...geometry.origin)),
      box: box as never,
      bvh: buildPartBvh(geometry),
    };
  });
  const chosen = hatchPatterns(components);
  return [...chosen.keys()].sort((a, b) => a - b).map((part) => HATCHES[chosen.get(part)!]);
}

test('parts that meet lean opposite ways, at the usual spacing as long as leaning tells them apart', () => {
  // A row of four: each meets the next.
  const row = hatchesOf(
    ...[0, 1, 2, 3].map((i): [number, [number, number, number], [number, number, number]] => [
      i,
      [10, 10, 10],
      [10 * i, 0, 0],
    ]),
  );
  row.slice(1).forEach((h, i) => expect(h.angle).toBeCloseTo(-row[i].angle, 12));
  expect(row.every((h) => h.spacing === 1)).toBe(true);
  expect(row.every((h) => Math.abs(h.angle) === Math.PI / 4)).toBe(true);
});

test('of three that meet in a ring those with the smallest boundary lean alike, and differ in spacing', () => {
  // A tall and a long one with a large common face; a small one in their corner, which meets the long one by
  // more than the tall one.
  const [tall, long, small] = hatchesOf(
    [0, [40, 40, 100], [0, 0, 0]],
    [1, [100, 40, 60], [40, 0, 0]],
    [2, [30, 40, 4], [40, 0, 60]],
  );
  expect(tall.angle).toBeCloseTo(-long.angle, 12);
  expect(small.angle).toBeCloseTo(-long.angle, 12);
  expect(small.spacing).not.toBe(tall.spacing);
});

test('boxes that overlap without their surfaces meeting are no neighbours; the same part is hatched alike wherever it lies', () => {
  // A slim part inside the box of a large one, 20 mm from its surface, and a third that
  // touches only the slim one.
  const [shell, slim, third] = hatchesOf(
    [0, [100, 100, 100], [0, 0, 0]],
    [1, [10, 10, 60], [45, 45, 20]],
    [2, [10, 10, 10], [55, 45, 40]],
    [1, [10, 10, 60], [500, 0, 0]],
  );
  expect(slim.angle).toBeCloseTo(-third.angle, 12);
  expect([shell, slim, third].every((h) => h.spacing === 1)).toBe(true);
});

test('what a gasket lies between leans opposite ways', () => {
  const [body, gasket, cap] = hatchesOf(
    [0, [50, 50, 40], [0, 0, 0]],
    [1, [50, 50, 1], [0, 0, 40], true],
    [2, [50, 50, 20], [0, 0, 41]],
  );
  expect(cap.angle).toBeCloseTo(-body.angle, 12);
  const like = gasket.angle === body.angle ? body : cap;
  expect(gasket.spacing).not.toBe(like.spacing);
});
