import { placedBoxKnown } from '@bathyscope/core/geometry';
import { IDENTITY, multiply, type Mat4, type Vec3 } from '@bathyscope/core/math';
import { describePart } from './describe-part.ts';
import type { Occt } from '../occt/load.ts';
import { madeSolids, type MadeSolids, type Segment } from '../testing/made-solids.ts';
import { testKernel } from '../testing/test-kernel.ts';

/*
 * Boxes of round and free-form solids against closed forms: an ellipsoid, ellipse or torus reaches √Σ(half
 * axis · component)² along a direction.
 */

let oc: Occt;
let made: MadeSolids;
beforeAll(async () => {
  ({ oc } = await testKernel());
  made = madeSolids(oc);
});

const { cos, sin, hypot, PI } = Math;
const ellipse: Segment[] = [{ kind: 'conic', centre: [0, 0], a: [18, 0], b: [0, 9], from: 0, to: 2 * PI }];
const POLES = [
  [20, 0],
  [22, 12],
  [8, 20],
  [-6, 15],
  [-20, 12],
  [-24, -4],
  [-9, -18],
  [3, -10],
  [18, -14],
  [20, 0],
] as const;

const expectBox = (shape: Occt, min: Vec3, max: Vec3, digits = 9, within = 0): void => {
  const part = describePart(oc, shape);
  min.forEach((x, k) => expect(part.box.min[k]).toBeCloseTo(x, digits));
  max.forEach((x, k) => expect(part.box.max[k]).toBeCloseTo(x, digits));
  expect(part.boxWithin ?? 0).toBeLessThanOrEqual(within);
};

test('an extruded ellipse, as it is and turned in its plane', () => {
  expectBox(made.extruded([0, 0, 30], ellipse), [-18, -9, 0], [18, 9, 30]);
  for (const t of [0.3, 1.1, 2.5]) {
    const [x, y] = [hypot(18 * cos(t), 9 * sin(t)), hypot(18 * sin(t), 9 * cos(t))];
    expectBox(made.turned(made.extruded([0, 0, 30], ellipse), [0, 0, 1], t), [-x, -y, 0], [x, y, 30]);
  }
});

test('a revolved ellipse, its crown cut off, and an arc of it', () => {
  const ring: Segment[] = [{ kind: 'conic', centre: [50, 3], a: [18, 0], b: [0, 9], from: 0, to: 2 * PI }];
  expectBox(made.revolved(2 * PI, ring), [-68, -68, -6], [68, 68, 12]);
  expectBox(made.revolved(PI / 2, ring), [0, 0, -6], [68, 68, 12]);
  // Cut a hair below the crown, its surface is level beyond the outline.
  expectBox(
    made.minus(made.revolved(PI / 2, ring), made.box([-100, -100, 11.995], [100, 100, 20])),
    [0, 0, -6],
    [68, 68, 11.995],
    6,
  );
});

test('B-splines: a ball, a torus that leans, a blob against many of its points', () => {
  expectBox(made.asSplines(made.sphere([1, 2, 3], 20)), [-19, -18, -17], [21, 22, 23], 7);
  const leaning = made.turned(made.torus([0, 0, 0], 30, 8), [1, 0, 0], 0.6);
  const [y, z] = [30 * cos(0.6) + 8, 30 * sin(0.6) + 8];
  expectBox(leaning, [-38, -y, -z], [38, y, z]);
  expectBox(made.asSplines(leaning), [-38, -y, -z], [38, y, z], 6);
  const blob = made.extruded([0, 0, 5], [{ kind: 'spline', poles: POLES, degree: 3 }]);
  const part = describePart(oc, blob);
  const reach = [[Infinity, Infinity], [-Infinity, -Infinity]]; // prettier-ignore
  for (let i = 0; i <= 200_000; i++)
    blobAt((7 * i) / 200_000).forEach((x, k) => {
      reach[0][k] = Math.min(reach[0][k], x);
      reach[1][k] = Math.max(reach[1][k], x);
    });
  for (const k of [0, 1]) {
    expect(part.box.min[k]).toBeCloseTo(reach[0][k], 7);
    expect(part.box.max[k]).toBeCloseTo(reach[1][k], 7);
  }
  expect(part.boxWithin ?? 0).toBe(0);
});

/** A clamped cubic B-spline with even knots, by de Boor's recursion. */
function blobAt(t: number): [number, number] {
  const knot = (i: number) => Math.min(7, Math.max(0, i - 3));
  const span = Math.min(6, Math.floor(t)) + 3;
  const d = Array.from({ length: 4 }, (_, j): [number, number] => [...POLES[j + span - 3]]);
  for (let r = 1; r <= 3; r++)
    for (let j = 3; j >= r; j--) {
      const a = (t - knot(j + span - 3)) / (knot(j + 1 + span - r) - knot(j + span - 3));
      d[j] = [(1 - a) * d[j - 1][0] + a * d[j][0], (1 - a) * d[j - 1][1] + a * d[j][1]];
    }
  return d[3];
}

test('a ball cut just before its pole reaches to the cut', () => {
  expectBox(
    made.minus(made.sphere([0, 0, 0], 20), made.box([-30, -30, 19.99], [30, 30, 30])),
    [-20, -20, -20],
    [20, 20, 19.99],
    7,
  );
  // The crown is nearer to its outline than the mesh can tell: that is said.
  expectBox(
    made.minus(made.torus([0, 0, 0], 30, 8), made.box([-60, -60, 7.995], [60, 60, 30])),
    [-38, -38, -8],
    [38, 38, 7.995],
    6,
    0.00501,
  );
});

test('turned in the model: elementary parts exact, free-form ones within what is told', () => {
  const turn = (t: number): Mat4 => [1, 0, 0, 0, 0, cos(t), sin(t), 0, 0, -sin(t), cos(t), 0, 0, 0, 0, 1];
  const spin: Mat4 = [cos(0.4), sin(0.4), 0, 0, -sin(0.4), cos(0.4), 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  const m = multiply(turn(0.7), spin);
  const reachOf = (axes: Vec3[]) =>
    [0, 1, 2].map((k) => hypot(...axes.map((a) => m[k] * a[0] + m[k + 4] * a[1] + m[k + 8] * a[2])));
  const disc = describePart(oc, made.cylinder([0, 0, 0], 20, 5));
  const thick = [m[8], m[9], m[10]].map((x) => 5 * x);
  const rim = reachOf([[20, 0, 0], [0, 20, 0]]); // prettier-ignore
  const turned = placedBoxKnown(disc, m);
  expect(turned.within).toBe(0);
  turned.box.max.forEach((x, k) => expect(x).toBeCloseTo(rim[k] + Math.max(0, thick[k]), 6));
  // Ends of an extruded ellipse are ellipses, its wall reaches farthest on them; but that is not known of
  // every extrusion.
  const part = describePart(oc, made.extruded([0, 0, 5], ellipse));
  const ends = reachOf([[18, 0, 0], [0, 9, 0]]); // prettier-ignore
  const { box, within } = placedBoxKnown(part, m);
  expect(within).toBe(part.chordTolerance);
  box.max.forEach((x, k) => {
    expect(x).toBeLessThanOrEqual(ends[k] + Math.max(0, thick[k]) + 1e-6);
    expect(x + within).toBeGreaterThanOrEqual(ends[k] + Math.max(0, thick[k]));
  });
  expect(placedBoxKnown(part, IDENTITY).within).toBe(0);
});

test('a ball bored just beside its pole: how it lies changes nothing of what is told', () => {
  // The pole stays, nearer to the outline than a mesh can tell.
  const bored = made.minus(made.sphere([0, 0, 0], 20), made.cylinder([5.02, 0, -30], 5, 60));
  const lain = describePart(oc, made.turned(bored, [1, 0, 0], -0.7));
  const upright: Mat4 = [1, 0, 0, 0, 0, cos(0.7), sin(0.7), 0, 0, -sin(0.7), cos(0.7), 0, 0, 0, 0, 1];
  const { box, within } = placedBoxKnown(lain, upright);
  expect(within).toBeGreaterThan(0);
  expect(box.max[2] + within).toBeGreaterThanOrEqual(20 - 1e-9);
  expect(box.max[2]).toBeLessThanOrEqual(20 + 1e-9);
});
