import fc from 'fast-check';
import { rotate, rotationAbout } from '../math/quaternion.ts';
import { map3, normalize, type Vec3 } from '../math/vec3.ts';
import { boxPart } from '../testing/box-part.ts';
import { aboutAxis, GRAVITY, groundPoints, hangingFrom, NoSupport, standingOn } from './balance.ts';
import { afloat, NoBallast, neutralBallast, rightingArms, type Immersed } from './buoyancy.ts';
import { orientedBox } from './oriented-box.ts';
import { readDensity } from './read-density.ts';

const UP: Vec3 = [0, 0, 1];

test('a block stands on its lower face, tips at the angle of its half width over its height; a heavy side falls', () => {
  const { mesh } = boxPart(40, 60, 100);
  const ground = groundPoints(mesh.positions, UP);
  expect(new Set(ground.map(String)).size).toBe(4);
  const still = standingOn([20, 30, 50], ground, UP);
  expect(still.margin).toBeCloseTo(20, 12);
  expect(still.tip).toBeCloseTo(Math.atan(20 / 50), 12);
  expect(still.foot).toEqual([20, 30, 0]);
  const falls = standingOn([45, 30, 50], ground, UP);
  expect(falls.margin).toBeCloseTo(-5, 12);
  expect(falls.tip).toBeLessThan(0);
  expect(() =>
    standingOn(
      [0, 0, 1],
      [
        [0, 0, 0],
        [10, 0, 0],
      ],
      UP,
    ),
  ).toThrow(NoSupport);
  // A tripod at 120° on a circle of 100: half the radius to each side (an equilateral triangle).
  const feet = [0, 120, 240].map((d): Vec3 => [
    100 * Math.cos((d * Math.PI) / 180),
    100 * Math.sin((d * Math.PI) / 180),
    0,
  ]);
  expect(standingOn([0, 0, 80], feet, UP).margin).toBeCloseTo(50, 10);
});

test('hanging and turning about an axis (statics)', () => {
  expect(hangingFrom([30, 40, 0], [0, 0, 50], UP)).toEqual({
    tilt: expect.closeTo(Math.PI / 4, 12),
    offset: 50,
    above: 50,
    level: [30, 40, 50],
  });
  // 2 kg, 100 mm beside a level axis along Y: 2·9.80665·100 N·mm.
  const { away, torque } = aboutAxis([100, 7, -20], 2, [0, 0, -20], [0, 3, 0], UP);
  expect(away).toBeCloseTo(100, 12);
  expect(Math.abs(torque)).toBeCloseTo(2 * GRAVITY * 100, 9);
});

test('a sphere, a box and ballast by Archimedes', () => {
  // A hollow glass sphere Ø200 of 2.5 kg in sea water of 1026: (4/3)π·0.1³·1026 = 4.2977 kg.
  const displaced = (4 / 3) * Math.PI * 100 ** 3;
  const sphere: Immersed = {
    mass: 2.5,
    centreOfGravity: [0, 0, -10],
    displaced,
    centreOfBuoyancy: [0, 0, 0],
  };
  const { net, lift, above, lever, trim } = afloat(sphere, 1026, UP);
  expect(lift / GRAVITY).toBeCloseTo(4.2977, 4);
  expect(net).toBeCloseTo((4.2977 - 2.5) * GRAVITY, 3);
  expect([above, lever, trim]).toEqual([10, 0, 0]);
  // Righting arm under water: BG·sin θ; worst at 90°.
  const arms = rightingArms(sphere, UP, [1, 0, 0], [0, Math.PI / 6, Math.PI / 2, Math.PI]);
  expect(arms).toEqual([0, 5, 10, 0].map((x) => expect.closeTo(x, 10)));
  // Lead of 11 340 below it makes it neutral: m (1 − 1026/11340) = 1.7977.
  const ballast = neutralBallast(sphere, 1026, 11340, [0, 0, -120]);
  expect(ballast.kg).toBeCloseTo(1.7977 / (1 - 1026 / 11340), 3);
  expect(afloat(ballast.with, 1026, UP).net).toBeCloseTo(0, 9);
  expect(afloat(ballast.with, 1026, UP).above).toBeGreaterThan(50);
  // What of the water is not known for sure is not known of the lift and of the lead either: 1
  // cm³ is 1.026 g of water.
  const unsure = { ...sphere, within: 1000 };
  expect(afloat(unsure, 1026, [0, 0, 1]).within).toBeCloseTo(1.026e-3 * 9.80665, 12);
  expect(neutralBallast(unsure, 1026, 11340, [0, 0, -120]).within.kg).toBeCloseTo(
    1.026e-3 / (1 - 1026 / 11340),
    12,
  );
  expect(ballast.within).toEqual({ kg: 0, volume: 0 });
  expect(() => neutralBallast(sphere, 1026, 450, [0, 0, 0])).toThrow(NoBallast);
  expect(() => neutralBallast(sphere, 1026, 1026, [0, 0, 0])).toThrow(/as dense as the fluid/);
  // What sinks is lifted by foam.
  const block: Immersed = {
    mass: 7.85,
    centreOfGravity: [0, 0, 0],
    displaced: 1e6,
    centreOfBuoyancy: [0, 0, 0],
  };
  const foam = neutralBallast(block, 1026, 450, [0, 0, 80]);
  expect(afloat(foam.with, 1026, UP).net).toBeCloseTo(0, 9);
  expect(foam.volume).toBeCloseTo(((7.85 - 1.026) / (1026 - 450)) * 1e9, 3);
});

test('the smallest box about a turned block is the block, within one per cent; about a tetrahedron the cube it is cut from', () => {
  fc.assert(
    fc.property(
      fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -1, max: 1, noNaN: true }))),
      fc.double({ min: 0, max: 6, noNaN: true }),
      (axis, angle) => {
        const q = rotationAbout(normalize([axis[0], axis[1], axis[2] + 1.5]), angle);
        const { mesh } = boxPart(10, 25, 60);
        const points: number[] = [];
        for (let i = 0; i < mesh.positions.length; i += 3)
          points.push(...rotate(q, [mesh.positions[i], mesh.positions[i + 1], mesh.positions[i + 2]]));
        const { size, axes, centre } = orientedBox(points);
        expect(size[0] * size[1] * size[2]).toBeLessThan(10 * 25 * 60 * 1.01);
        expect(size[0] * size[1] * size[2]).toBeGreaterThan(10 * 25 * 60 * 0.999999);
        expect(
          Math.abs(axes[0][0] * axes[1][0] + axes[0][1] * axes[1][1] + axes[0][2] * axes[1][2]),
        ).toBeLessThan(1e-9);
        expect(centre).toEqual(rotate(q, [5, 12.5, 30]).map((x) => expect.closeTo(x, 0)));
      },
    ),
    { numRuns: 20 },
  );
  // Of many points, in no order, those inside play no part.
  const scattered = (i: number) => (Math.abs(Math.sin(12.9898 * i)) * 43758.5453) % 1;
  const turned = rotationAbout(normalize([1, 2, 3]), 0.7);
  const many: number[] = [];
  for (let i = 0; i < 60_000; i++)
    many.push(
      ...rotate(
        turned,
        map3([10, 25, 60], (side, k) => side * scattered(3 * i + k)),
      ),
    );
  const dense = orientedBox(many).size;
  expect(dense[0] * dense[1] * dense[2]).toBeLessThan(10 * 25 * 60 * 1.01);
  expect(dense[0] * dense[1] * dense[2]).toBeGreaterThan(10 * 25 * 60 * 0.99);
  const tetrahedron = [0, 0, 0, 1, 1, 0, 1, 0, 1, 0, 1, 1];
  const { size } = orientedBox(tetrahedron);
  expect(size[0] * size[1] * size[2]).toBeLessThan(1.01);
  expect(() => orientedBox([])).toThrow('nothing to put a box about');
});

test.each([
  ['7850', { density: 7850 }],
  ['7,85 g/cm³', { density: 7850 }],
  ['7.85 g/cm^3', { density: 7850 }],
  ['0.284 lb/in3', { density: expect.closeTo(7861, 0) }],
  ['1 026 kg/m3', { density: 1026 }],
  ['7.85', { either: [7.85, 7850] }],
  ['0', { wrong: expect.stringContaining('weighs nothing') }],
  ['-3', { wrong: expect.stringContaining('above 0') }],
  ['heavy', { wrong: expect.stringContaining('no density') }],
  ['', { wrong: expect.stringContaining('Type a density') }],
  ['7850 stone', { wrong: expect.stringContaining('no unit of density') }],
  ['7850 g/cm³', { wrong: expect.stringContaining('denser than any material') }],
])('the density “%s”', (text, expected) => {
  expect(readDensity(text)).toEqual(expected);
});
