import { multiply, IDENTITY, type Mat4 } from '../math/mat4.ts';
import type { ModelStructure, StructureNode } from '../model/structure.ts';
import { placed } from '../testing/placed.ts';
import { matchStructures } from './match-structures.ts';

/* What became of components; the same rules on real shapes are measured beside the kernel. */

const never = () => false;
const node = (
  name: string,
  part: number,
  at: readonly [number, number, number],
  instanceName?: string,
): StructureNode => ({
  name,
  part,
  placement: placed(at),
  ...(instanceName && { instanceName }),
});
const model = (
  parts: readonly (readonly [name: string, geometry: string])[],
  children: StructureNode[],
  at: Mat4 = IDENTITY,
): ModelStructure => ({
  root: { name: 'Rig', placement: at, children },
  parts: parts.map(([name, geometry]) => ({ name, geometry })),
});
const BOLTS = [
  ['Bolt', 'bolt'],
  ['Plate', 'plate'],
] as const;
const row = (...xs: number[]) => xs.map((x) => node('Bolt', 0, [x, 0, 0]));
const went = (old: ModelStructure, now: ModelStructure) =>
  Object.fromEntries(
    [...matchStructures(old, now, never).components].map(([path, { to, certain }]) => [
      path,
      certain ? to : `${to}?`,
    ]),
  );

test('parts that have swapped their names are not swapped with them in certainty', () => {
  const old = model(
    [
      ['Left', 'l'],
      ['Right', 'r'],
    ],
    [node('Left', 0, [0, 0, 0]), node('Right', 1, [9, 0, 0])],
  );
  const now = model(
    [
      ['Left', 'r'],
      ['Right', 'l'],
    ],
    [node('Left', 0, [0, 0, 0]), node('Right', 1, [9, 0, 0])],
  );
  const { parts } = matchStructures(old, now, never);
  expect([...parts.values()].map(({ certain }) => certain)).toEqual([false, false]);
});

test('of equal ones each stays the one in its place, whatever its number; the one that is gone is none of them', () => {
  const old = model(BOLTS, row(0, 10, 20, 30));
  expect(went(old, model(BOLTS, row(-10, 0, 10, 20, 30)))).toMatchObject({
    './Bolt': './Bolt~2',
    './Bolt~4': './Bolt~5',
  });
  expect(went(old, model(BOLTS, row(0, 20, 30)))).toEqual({
    '.': '.',
    './Bolt': './Bolt',
    './Bolt~3': './Bolt~2',
    './Bolt~4': './Bolt~3',
  });
  // One is gone and one is somewhere else: nobody can tell that it is the same.
  expect(went(old, model(BOLTS, row(0, 20, 30, 500)))).not.toHaveProperty('./Bolt~2');
  // Moved by less than half the way to the next it is probably the same.
  expect(went(old, model(BOLTS, row(0, 14, 20, 30)))).toMatchObject({ './Bolt~2': './Bolt~2?' });
});

test('a model that was moved as a whole is laid back; a row that moved by its own pitch is not taken for that', () => {
  const turn = placed([500, 0, 0], [0, 1, 0]);
  const old = model(BOLTS, [...row(0, 10, 20), node('Plate', 1, [0, 50, 0])]);
  const moved = matchStructures(
    old,
    model(BOLTS, [...row(0, 10, 20), node('Plate', 1, [0, 50, 0])], turn),
    never,
  );
  expect(moved.motion!.map((x) => x + 0)).toEqual(multiply(turn, IDENTITY).map((x) => expect.closeTo(x, 9)));
  expect([...moved.components.values()].every(({ certain }) => certain)).toBe(true);
  const shifted = matchStructures(
    old,
    model(BOLTS, [...row(-10, 0, 10, 20), node('Plate', 1, [0, 50, 0])]),
    never,
  );
  expect(shifted.motion).toBeNull();
});

test('names of occurrences tell equal ones apart that all moved', () => {
  const named = (places: readonly (readonly [number, number, number])[], names: string) =>
    model(BOLTS, [...places.map((at, i) => node('Bolt', 0, at, names[i])), node('Plate', 1, [0, 0, 0])]);
  const old = named(
    [
      [0, 0, 0],
      [50, 0, 0],
      [0, 50, 0],
    ],
    'ABC',
  );
  const now = named(
    [
      [20, 80, 9],
      [33, 70, 5],
      [-40, 4, 60],
    ],
    'CAB',
  );
  expect(went(old, now)).toMatchObject({
    './Bolt': './Bolt~2',
    './Bolt~2': './Bolt~3',
    './Bolt~3': './Bolt',
  });
  // All moved alike, and the names say otherwise than the places: neither is certain.
  const alike = named(
    [
      [0, 0, 40],
      [50, 0, 40],
      [0, 50, 40],
    ],
    'CAB',
  );
  expect(went(old, alike)).toMatchObject({
    './Bolt': './Bolt?',
    './Bolt~2': './Bolt~2?',
    './Bolt~3': './Bolt~3?',
  });
});

test('thousands that all moved each for itself are given up, and soon', () => {
  const many = (spread: number) =>
    model(
      BOLTS,
      Array.from({ length: 5000 }, (_, i) => node('Bolt', 0, [i * spread, (i * i * spread) % 977, 0])),
    );
  const found = matchStructures(many(7), many(11.3), never);
  // The first is where it was, and the assembly is itself.
  expect(found.components.size).toBeLessThan(20);
});
