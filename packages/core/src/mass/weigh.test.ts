import fc from 'fast-check';
import type { MassFigures } from '../geometry/part-geometry.ts';
import { IDENTITY, type Mat4 } from '../math/mat4.ts';
import { rotate, rotationAbout } from '../math/quaternion.ts';
import { normalize, type Vec3 } from '../math/vec3.ts';
import { materialById, MATERIALS } from './materials.ts';
import { densityText, ellipsoidOf, inertiaIn, massText, massOfSet } from './set-mass.ts';

const real = (min: number, max: number) => fc.double({ min, max, noNaN: true });

/** A box about its middle: V = abc, I = V (b² + c²)/12 … (closed form). */
const box = (a: number, b: number, c: number): MassFigures => {
  const v = a * b * c;
  return {
    volume: v,
    volumeErrorEstimate: 0,
    centreOfGravity: [0, 0, 0],
    inertia: [
      [(v * (b * b + c * c)) / 12, 0, 0],
      [0, (v * (a * a + c * c)) / 12, 0],
      [0, 0, (v * (a * a + b * b)) / 12],
    ],
    accuracy: { kind: 'exact' },
  };
};
const at = (x: number, y: number, z: number): Mat4 => [...IDENTITY.slice(0, 12), x, y, z, 1];

test('a steel block of 100 × 50 × 20: 0.785 kg, moments and radii in closed form', () => {
  const { known } = massOfSet([{ figures: box(100, 50, 20), placement: IDENTITY, density: 7850 }]);
  expect(known!.mass).toBeCloseTo(0.785, 12);
  const moment = (p: number, q: number) => (0.785 * (p * p + q * q)) / 12;
  expect(known!.principal.moments).toEqual(
    [moment(50, 20), moment(100, 20), moment(100, 50)].map((m) => expect.closeTo(m, 9)),
  );
  expect(known!.radiiOfGyration[2]).toBeCloseTo(Math.sqrt((100 ** 2 + 50 ** 2) / 12), 9);
});

test('two materials: the centre of gravity lies where the masses balance (worked by hand)', () => {
  // Steel 1,000 mm³ at the origin and aluminium 1,000 mm³ 100 mm off: 100 · 2700 / (7850 + 2700).
  const { known } = massOfSet([
    { figures: box(10, 10, 10), placement: IDENTITY, density: 7850 },
    { figures: box(10, 10, 10), placement: at(100, 0, 0), density: 2700 },
  ]);
  expect(known!.centreOfGravity[0]).toBeCloseTo((100 * 2700) / 10550, 10);
  // Steiner: own moments, and the reduced mass times the distance squared.
  const reduced = (7.85e-3 * 2.7e-3) / (7.85e-3 + 2.7e-3);
  expect(known!.inertia[2][2]).toBeCloseTo(((7.85e-3 + 2.7e-3) * 200) / 12 + reduced * 100 ** 2, 10);
});

test('what has no density or no volume is counted and left out', () => {
  const { known, noDensity, noVolume } = massOfSet([
    { figures: box(10, 10, 10), placement: IDENTITY, density: 1000 },
    { figures: box(10, 10, 10), placement: IDENTITY, density: null },
    { figures: null, placement: IDENTITY, density: 7850 },
    { figures: null, placement: IDENTITY, density: null },
  ]);
  expect([known!.mass, noDensity, noVolume]).toEqual([expect.closeTo(1e-3, 15), 1, 2]);
  expect(massOfSet([{ figures: null, placement: IDENTITY, density: 1 }]).known).toBeNull();
  expect(massOfSet([])).toMatchObject({ known: null, noDensity: 0, noVolume: 0 });
});

test('principal moments keep the triangle inequality and do not change when all is turned and moved, far away too', () => {
  const one = fc.record({
    size: fc.tuple(real(1, 50), real(1, 50), real(1, 50)),
    place: fc.tuple(real(-99, 99), real(-99, 99), real(-99, 99)),
    density: real(20, 19000),
  });
  fc.assert(
    fc.property(
      fc.array(one, { minLength: 1, maxLength: 5 }),
      fc.tuple(real(-1, 1), real(-1, 1), real(0.2, 1)),
      real(0, 6),
      fc.boolean(),
      (parts, axis, angle, far) => {
        const q = rotationAbout(normalize(axis as Vec3), angle);
        const still = massOfSet(
          parts.map(({ size, place, density }) => ({
            figures: box(...size),
            placement: at(...place),
            density,
          })),
        ).known!;
        const columns = (
          [
            [1, 0, 0],
            [0, 1, 0],
            [0, 0, 1],
          ] as Vec3[]
        ).flatMap((e) => [...rotate(q, e), 0]);
        const shift = far ? 1e6 : 0;
        const turned = massOfSet(
          parts.map(({ size, place, density }) => {
            const [x, y, z] = rotate(q, place);
            return {
              figures: box(...size),
              placement: [...columns.slice(0, 12), x + shift, y, z, 1],
              density,
            };
          }),
        ).known!;
        const [a, b, c] = still.principal.moments;
        expect(a + b).toBeGreaterThan(c * (1 - 1e-9));
        turned.principal.moments.forEach((m, k) =>
          expect(m / still.principal.moments[k]).toBeCloseTo(1, far ? 5 : 8),
        );
        expect(turned.mass).toBeCloseTo(still.mass, 9);
      },
    ),
  );
});

test('a mass is written as a scale would show it', () => {
  expect([0.0123456, 0.9, 1, 12.3456].map(massText)).toEqual(['12.35 g', '900.0 g', '1.000 kg', '12.346 kg']);
});

test('the library: eighty materials and more, each once, with a density, a spread and a source; known values are in it', () => {
  expect(MATERIALS.length).toBeGreaterThanOrEqual(80);
  expect(new Set(MATERIALS.map((m) => m.id)).size).toBe(MATERIALS.length);
  expect(new Set(MATERIALS.map((m) => m.name)).size).toBe(MATERIALS.length);
  for (const { density, spread, source } of MATERIALS) {
    expect(density).toBeGreaterThan(0);
    expect(spread).toBeGreaterThan(0);
    expect(spread).toBeLessThan(density / 2);
    expect(source).not.toBe('');
  }
  // ISO 2533 and IAPWS-95 round to these (from memory): air at sea level 1.225, water at 20 °C 998.2 kg/m³.
  expect(materialById('air')!.density).toBeCloseTo(1.225, 1);
  expect(materialById('fresh-water')!.density).toBeCloseTo(998.2, 0);
  expect(materialById('none')).toBeUndefined();
});

test('a typed mass goes before the density, with its own centre or that of its shape; without a shape it is a point', () => {
  const typed = massOfSet([
    { figures: box(10, 10, 10), placement: at(50, 0, 0), density: 7850, typed: { kg: 2, at: null } },
  ]);
  expect(typed.known).toMatchObject({ mass: 2, centreOfGravity: [50, 0, 0] });
  expect(typed.known!.inertia[0][0]).toBeCloseTo((2 * 200) / 12, 12);
  const off = massOfSet([
    { figures: null, placement: at(50, 0, 0), density: null, typed: { kg: 2, at: [0, 0, 7] } },
    { figures: box(10, 10, 10), placement: IDENTITY, density: 1000, assumed: true },
  ]);
  expect(off).toMatchObject({
    noDensity: 0,
    noVolume: 0,
    typed: { count: 1, asPoints: 1 },
    assumed: { count: 1, mass: expect.closeTo(1e-3, 15) },
  });
  expect(off.known!.centreOfGravity[2]).toBeCloseTo((2 * 7) / 2.001, 10);
});

test('inertia about another system is Steiner’s; areas grow with the square of a scale', () => {
  const { known } = massOfSet([
    { figures: box(10, 20, 30), placement: at(100, 0, 0), density: 1e9, area: 2200 },
  ]);
  const about = inertiaIn(known!, { origin: [0, 0, 0], x: [0, 1, 0], y: [-1, 0, 0], z: [0, 0, 1] });
  const m = 6000;
  // In the turned axes X is the model's Y, from which the block stands 100 off.
  expect(about[0][0]).toBeCloseTo((m * (10 ** 2 + 30 ** 2)) / 12 + m * 100 ** 2, 3);
  expect(about[1][1]).toBeCloseTo((m * (20 ** 2 + 30 ** 2)) / 12, 3);
  expect(known!.area).toBe(2200);
  expect(
    massOfSet([
      {
        figures: box(1, 1, 1),
        placement: [2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 1],
        density: 1,
        area: 6,
      },
    ]).known,
  ).toMatchObject({
    area: 24,
    volume: 8,
  });
  // A ball has the ellipsoid of its own radius: I = 2/5 m r².
  const ball: MassFigures = {
    ...box(1, 1, 1),
    volume: 1,
    inertia: [
      [40, 0, 0],
      [0, 40, 0],
      [0, 0, 40],
    ],
  };
  expect(ellipsoidOf(massOfSet([{ figures: ball, placement: IDENTITY, density: 1e9 }]).known!)).toEqual(
    [10, 10, 10].map((x) => expect.closeTo(x, 9)),
  );
});

test.each([
  [7999.999999999999, '8000 kg/m³'],
  [1.2, '1.2 kg/m³'],
  [2702.5, '2702.5 kg/m³'],
  [7861.093243, '7861.09 kg/m³'],
])('the density %d is told as %s', (density, told) => {
  expect(densityText(density)).toBe(told);
});
