import fc from 'fast-check';
import { IDENTITY, type Mat4 } from '../math/mat4.ts';
import { normalize, scale, type Vec3 } from '../math/vec3.ts';
import { boxPart } from '../testing/box-part.ts';
import { placed } from '../testing/placed.ts';
import { combineMass } from './combine-mass.ts';
import { areaWithin } from './area-within.ts';
import { massWithin } from './mass-within.ts';
import { meshMass } from './mesh-mass.ts';

const block = boxPart(10, 20, 30).mesh;
const unit = fc
  .tuple(fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true }))
  .map(([a, b]) => normalize([a, b, 0.4]));

test('a block cut square and aslant: volume, centre and inertia in closed form', () => {
  const lower = massWithin(block, IDENTITY, [{ normal: [0, 0, 1], constant: 12 }])!;
  expect(lower.volume).toBeCloseTo(10 * 20 * 12, 9);
  expect(lower.centreOfGravity).toEqual([5, 10, 6].map((x) => expect.closeTo(x, 10)));
  expect(lower.inertia[0][0]).toBeCloseTo((2400 * (20 ** 2 + 12 ** 2)) / 12, 6);
  // A corner of 3 × 3 × 3: a tetrahedron of 27/6, its centre a quarter along each edge.
  const s = 1 / Math.sqrt(3);
  const corner = massWithin(block, IDENTITY, [{ normal: [s, s, s], constant: 3 * s }])!;
  expect(corner.volume).toBeCloseTo(27 / 6, 10);
  expect(corner.centreOfGravity).toEqual([0.75, 0.75, 0.75].map((x) => expect.closeTo(x, 10)));
  // Three planes that meet in no common point: a slab and a side.
  const slab = massWithin(block, IDENTITY, [
    { normal: [0, 0, -1], constant: -10 },
    { normal: [0, 0, 1], constant: 15 },
    { normal: [-1, 0, 0], constant: -4 },
  ])!;
  expect(slab.volume).toBeCloseTo(6 * 20 * 5, 9);
  expect(massWithin(block, IDENTITY, [{ normal: [0, 0, -1], constant: -31 }])).toBeNull();
});

test('the two sides of any plane make the whole, turned, mirrored and ten kilometres away', () => {
  const whole = meshMass(block.positions, block.indices, 0)!;
  fc.assert(
    fc.property(
      unit,
      fc.double({ min: -12, max: 12, noNaN: true }),
      fc.boolean(),
      fc.boolean(),
      (normal, offset, mirror, far) => {
        const place = [...placed([3, 4, 5], [1, 2, 3])] as unknown as number[];
        if (mirror) for (const k of [0, 1, 2]) place[k] = -place[k];
        if (far) place[12] += 1e7;
        const at = place as unknown as Mat4;
        const middle: Vec3 = [place[12], place[13], place[14]];
        const constant = offset - normal.reduce((sum, n, k) => sum + n * middle[k], 0);
        const sides = [1, -1].map((s) =>
          massWithin(block, at, [{ normal: scale(normal, -s), constant: s * constant }]),
        );
        const both = combineMass(sides.filter((x) => x !== null))!;
        expect(both.volume / whole.volume).toBeCloseTo(1, far ? 7 : 10);
        const trace = (m: typeof both) => m.inertia[0][0] + m.inertia[1][1] + m.inertia[2][2];
        expect(trace(both) / trace(whole)).toBeCloseTo(1, far ? 6 : 9);
      },
    ),
  );
});

test('surface of what is kept: what was there and what the planes cut, also where planes meet and stand opposite', () => {
  const within = (...planes: [Vec3, number][]) =>
    areaWithin(
      block,
      IDENTITY,
      planes.map(([normal, constant]) => ({ normal, constant })),
    );
  expect(within()).toEqual({ outer: expect.closeTo(2 * (10 * 20 + 10 * 30 + 20 * 30), 9), cut: 0, round: 0 });
  const lower = within([[0, 0, 1], 12]);
  expect(lower).toEqual({
    outer: expect.closeTo(200 + 2 * 12 * 30, 9),
    cut: expect.closeTo(200, 9),
    round: 0,
  });
  // A slab from 10 to 15 and of it what lies beyond x = 4.
  const slab = within([[0, 0, -1], -10], [[0, 0, 1], 15], [[-1, 0, 0], -4]);
  expect(slab).toEqual({
    outer: expect.closeTo(5 * (20 + 6 + 6), 9),
    cut: expect.closeTo(2 * 6 * 20 + 5 * 20, 9),
    round: 0,
  });
  // The corner of 3 × 3 × 3 that a slanting plane takes: three right triangles, and an equilateral one.
  const s = 1 / Math.sqrt(3);
  const corner = within([[s, s, s], 3 * s]);
  expect(corner).toEqual({
    outer: expect.closeTo(3 * 4.5, 9),
    cut: expect.closeTo((Math.sqrt(3) / 4) * 18, 9),
    round: 0,
  });
});

/** A rod about Z, meshed with n sides, and how far that lies within it. */
function rod(radius: number, length: number, n: number) {
  const positions: number[] = [];
  for (const z of [0, length]) {
    positions.push(0, 0, z);
    for (let i = 0; i < n; i++)
      positions.push(
        radius * Math.cos((2 * Math.PI * (i + 0.3)) / n),
        radius * Math.sin((2 * Math.PI * (i + 0.3)) / n),
        z,
      );
  }
  const indices: number[] = [];
  const round: number[] = [];
  for (let i = 0; i < n; i++) {
    const [a, b, c, d] = [1 + i, 1 + ((i + 1) % n), n + 2 + i, n + 2 + ((i + 1) % n)];
    indices.push(0, b, a, n + 1, c, d, a, b, d, a, d, c);
    round.push(0, 0, 1, 1);
  }
  return { positions, indices, round: Uint8Array.from(round), chord: radius * (1 - Math.cos(Math.PI / n)) };
}

test('a thin slice off a rod is known within its own layer, not within a share of the whole', () => {
  const [r, length] = [20, 46.5];
  const mesh = rod(r, length, 60);
  const segment = (h: number) => r * r * Math.acos((r - h) / r) - (r - h) * Math.sqrt(2 * r * h - h * h);
  for (let k = 0; k < 12; k++)
    for (const h of [0.05, 0.1, 0.5, 3, 15, 30]) {
      const t = k / 11;
      const found = massWithin(mesh, IDENTITY, [
        { normal: [-Math.cos(t), -Math.sin(t), 0], constant: h - r },
      ]);
      const volume = found?.volume ?? 0;
      const within = found ? (found.accuracy as { within: number }).within * volume : Infinity;
      expect(Math.abs(volume - segment(h) * length)).toBeLessThanOrEqual(within);
      if (h >= 3 && found) expect(within / volume).toBeLessThan(0.1);
    }
  // Square across it only the wall counts; of flat things nothing.
  const half = massWithin(mesh, IDENTITY, [{ normal: [0, 0, -1], constant: -length / 2 }])!;
  expect((half.accuracy as { within: number }).within).toBeLessThan(0.01);
  expect(massWithin(block, IDENTITY, [{ normal: [0, 0, 1], constant: 12 }])!.accuracy).toEqual({
    kind: 'mesh',
    within: 0,
  });
});
