import { distance, dot, type Vec3 } from '../math/vec3.ts';
import type { MeasuredShape } from './measured-shape.ts';
import { directionIn, factsIn, NoSystem, pointFrom, pointIn, systemOf } from './reference-system.ts';

const common = { accuracy: { kind: 'exact' as const }, span: 10 };
const point = (at: Vec3): MeasuredShape => ({ kind: 'point', at, ...common });
const line = (from: Vec3, axis: Vec3): MeasuredShape => ({
  kind: 'line',
  origin: from,
  axis,
  ends: null,
  ...common,
});

test('origin and two directions make a right-handed system; points go there and back', () => {
  const system = systemOf(point([10, 20, 30]), line([0, 0, 0], [0, 0, 1]), point([10, 27, 99]));
  expect(system).toEqual({ origin: [10, 20, 30], x: [0, 0, 1], y: [0, 1, 0], z: [-1, 0, 0] });
  const p: Vec3 = [3, -4, 5];
  expect(pointIn(system, p)).toEqual([-25, -24, 7]);
  expect(distance(pointFrom(system, pointIn(system, p)), p)).toBeLessThan(1e-12);
  const aslant = systemOf(point([1, 2, 3]), point([4, 6, 3]));
  expect(dot(aslant.x, aslant.y)).toBeCloseTo(0, 12);
  expect(directionIn(aslant, [0.6, 0.8, 0])).toEqual([
    expect.closeTo(1, 12),
    expect.closeTo(0, 12),
    expect.closeTo(0, 12),
  ]);
  expect(systemOf(point([1, 2, 3]))).toMatchObject({ origin: [1, 2, 3], x: [1, 0, 0] });
});

test('what makes no system says why', () => {
  const free: MeasuredShape = { kind: 'free', ...common };
  for (const picks of [
    [free],
    [point([0, 0, 0]), free],
    [point([0, 0, 0]), point([0, 0, 0])],
    [point([0, 0, 0]), line([0, 0, 0], [1, 0, 0]), point([5, 0, 0])],
  ] as MeasuredShape[][])
    expect(() => systemOf(picks[0], picks[1], picks[2])).toThrow(NoSystem);
});

test('a distance keeps its length whatever axes it is told in; points and directions are turned', () => {
  const facts = {
    title: '',
    main: { label: 'Least distance', value: { kind: 'length' as const, value: 5 } },
    accuracy: null,
    rows: [
      ...[3, 4, 0].map((value, k) => ({
        label: ['dX', 'dY', 'dZ'][k],
        value: { kind: 'length' as const, value },
      })),
      { label: 'From', value: { kind: 'point' as const, value: [1, 1, 1] as Vec3 } },
      { label: 'To', value: { kind: 'point' as const, value: [4, 5, 1] as Vec3 } },
      { label: 'Axis', value: { kind: 'direction' as const, value: [0, 0, 1] as Vec3 } },
    ],
  };
  const told = factsIn(systemOf(point([1, 1, 1]), point([4, 5, 1])), facts);
  const values = told.rows.map((r) => r.value.value);
  expect(told.main).toEqual(facts.main);
  expect(values.slice(0, 3)).toEqual([expect.closeTo(5, 12), expect.closeTo(0, 12), expect.closeTo(0, 12)]);
  expect(values[3]).toEqual([0, 0, 0]);
  expect(Math.abs((values[5] as Vec3)[1])).toBeCloseTo(1, 12);
});

test('a flat face: Z along its normal, X along its longest straight edge from that edge’s end, or along what is picked besides', () => {
  const face = (datum?: { at: Vec3; along: Vec3 | null }): MeasuredShape => ({
    kind: 'plane',
    origin: [7, 8, 9.005],
    axis: [0, 0, -1],
    bounds: true,
    ...(datum && { datum }),
    ...common,
  });
  const along: Vec3 = [0.6, 0.8, 0];
  const system = systemOf(face({ at: [1, 2, 9], along }));
  expect(system.origin).toEqual([1, 2, 9]);
  expect(system.z).toEqual([0, 0, -1]);
  expect(system.x).toEqual(along);
  expect(pointIn(system, [1.6, 2.8, 4])).toEqual([expect.closeTo(1, 12), expect.closeTo(0, 12), 5]);
  const other = systemOf(face({ at: [1, 2, 9], along }), line([0, 0, 0], [0, 1, 0]));
  expect([other.x, other.z]).toEqual([
    [0, 1, 0],
    [0, 0, -1],
  ]);
  expect(dot(other.y, [1, 0, 0])).toBeCloseTo(1, 12);
  // A round face has its centre, and the model's axis that lies in it.
  expect(systemOf(face({ at: [4, 4, 9], along: null }))).toMatchObject({ origin: [4, 4, 9], z: [0, 0, -1] });
  expect(() => systemOf(face(), line([0, 0, 0], [0, 0, 1]))).toThrow(NoSystem);
});
