import fc from 'fast-check';
import { IDENTITY, type Mat4 } from '../math/mat4.ts';
import { rotate, rotationAbout } from '../math/quaternion.ts';
import { normalize, type Vec3 } from '../math/vec3.ts';
import { boxPart } from '../testing/box-part.ts';
import { hollowsOf, overlapOf, type RayMesh } from './fill-rays.ts';
import { armsAfloat, Hull } from './waterline.ts';

/*
 * Closed forms of hydrostatics: Archimedes; a floating box has KB = T/2 and BM = B²/12T, its metacentric
 * height is KB + BM − KG (any book of naval architecture).
 */

const UP: Vec3 = [0, 0, 1];
const at = (x: number, y: number, z: number): Mat4 => [...IDENTITY.slice(0, 12), x, y, z, 1];
const block = (size: [number, number, number], place: Mat4 = IDENTITY): RayMesh => ({
  ...boxPart(...size).mesh,
  place,
});
const BARGE = block([200, 80, 60]);
const G: Vec3 = [100, 40, 30];

/** A prism of n sides about the X axis, which floats as a cylinder does when n is large. */
function cylinder(radius: number, length: number, n: number): RayMesh {
  const positions: number[] = [];
  for (const x of [0, length]) {
    positions.push(x, 0, 0);
    for (let i = 0; i < n; i++)
      positions.push(x, radius * Math.cos((2 * Math.PI * i) / n), radius * Math.sin((2 * Math.PI * i) / n));
  }
  const indices: number[] = [];
  for (let i = 0; i < n; i++) {
    const [a, b, c, d] = [1 + i, 1 + ((i + 1) % n), n + 2 + i, n + 2 + ((i + 1) % n)];
    indices.push(0, b, a, n + 1, c, d, a, b, d, a, d, c);
  }
  return { positions, indices, place: IDENTITY };
}

test('a box floats as deep as its weight says, and its metacentric height is that of the books', () => {
  const hull = new Hull([BARGE]);
  const found = hull.floats(200 * 80 * 24, UP)!;
  expect(found).toMatchObject({
    draught: expect.closeTo(24, 9),
    freeboard: expect.closeTo(36, 9),
    waterplane: expect.closeTo(16_000, 6),
  });
  expect(found.centreOfBuoyancy).toEqual([100, 40, 12].map((x) => expect.closeTo(x, 9)));
  const about = (axis: Vec3) => hull.metacentre(200 * 80 * 24, G, UP, axis)!;
  expect(about([1, 0, 0])).toEqual({ height: expect.closeTo(12 + 80 ** 2 / (12 * 24) - 30, 9), within: 0 });
  expect(about([0, 1, 0])).toEqual({ height: expect.closeTo(12 + 200 ** 2 / (12 * 24) - 30, 9), within: 0 });
  expect(found.within).toBe(0);
  // All of it under water at most.
  expect(hull.floats(200 * 80 * 60.001, UP)).toBeNull();
  expect(armsAfloat(hull, 2e6, G, UP, [1, 0, 0], [0])).toBeNull();
});

test('a box on its side rights itself by the wall-sided formula: GZ = sin φ (GM + ½ BM tan² φ)', () => {
  const volume = 200 * 80 * 24;
  const [bm, gm] = [80 ** 2 / (12 * 24), 12 + 80 ** 2 / (12 * 24) - 30];
  // As long as neither its deck nor its bottom comes through the water: tan φ < 24/40.
  const angles = [-0.5, -0.2, 0, 0.1, 0.3, 0.5];
  armsAfloat(new Hull([BARGE]), volume, G, UP, [1, 0, 0], angles)!.forEach((arm, i) => {
    const φ = angles[i];
    expect(arm).toBeCloseTo(Math.sin(φ) * (gm + (bm / 2) * Math.tan(φ) ** 2), 8);
  });
});

test('a floating cylinder half as dense as water lies half in it; its weight below its axis rights it as a pendulum at every tilt', () => {
  const n = 720;
  const hull = new Hull([cylinder(50, 300, n)]);
  const half = (Math.PI * 50 ** 2 * 300) / 2;
  const found = hull.floats(half * (Math.sin((2 * Math.PI) / n) / ((2 * Math.PI) / n)), UP)!;
  expect(found.draught).toBeCloseTo(50, 2);
  // Centroid of a half disc: 4r/3π below its edge.
  expect(found.centreOfBuoyancy[2]).toBeCloseTo((-4 * 50) / (3 * Math.PI), 2);
  const angles = [-2, -1, 0.5, 1.5, 3];
  const arms = armsAfloat(hull, half * 0.7, [150, 0, -10], UP, [1, 0, 0], angles)!;
  arms.forEach((arm, i) => expect(arm).toBeCloseTo(10 * Math.sin(angles[i]), 2));
});

test('turned and moved anywhere it floats the same, in parts too, and mirrored', () => {
  fc.assert(
    fc.property(
      fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -1, max: 1, noNaN: true }))),
      fc.double({ min: 0.1, max: 0.9, noNaN: true }),
      ([x, y, z], share) => {
        const up = normalize([x, y, z + (z < 0 ? -0.2 : 0.2)]);
        const volume = share * 200 * 80 * 60;
        const whole = new Hull([BARGE]).floats(volume, up)!;
        expect(whole.displaced / volume).toBeCloseTo(1, 9);
        const far = new Hull([
          block([100, 80, 60], at(1e6, 2e6, 0)),
          block([100, 80, 60], at(1e6 + 100, 2e6, 0)),
        ]).floats(volume, up)!;
        expect(far.draught).toBeCloseTo(whole.draught, 5);
        far.centreOfBuoyancy.forEach((c, k) =>
          expect(c - [1e6, 2e6, 0][k]).toBeCloseTo(whole.centreOfBuoyancy[k], 4),
        );
        const mirrored: Mat4 = [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 200, 0, 0, 1];
        const other = new Hull([{ ...BARGE, place: mirrored }]).floats(volume, up)!;
        expect(other.draught).toBeCloseTo(whole.draught, 6);
        // Its own weight at its own middle, turned with it: nothing changes but the frame.
        const q = rotationAbout([0, 0, 1], 0.7);
        expect(rotate(q, up)[2]).toBeCloseTo(up[2], 12);
      },
    ),
    { numRuns: 30 },
  );
});

test('a chest with a dry hollow floats on it, what overlaps lifts once', () => {
  const chest = [
    block([60, 40, 5]),
    block([60, 40, 5], at(0, 0, 45)),
    block([5, 40, 40], at(0, 0, 5)),
    block([5, 40, 40], at(55, 0, 5)),
    block([50, 5, 40], at(5, 0, 5)),
    block([50, 5, 40], at(5, 35, 5)),
  ];
  const { hollows } = hollowsOf(chest);
  expect(hollows).toHaveLength(1);
  const half = (60 * 40 * 50) / 2;
  const dry = new Hull(chest, [hollows[0].segments]);
  expect(Math.abs(dry.floats(half, UP)!.draught - 25)).toBeLessThan(0.6);
  expect(Math.abs(dry.floats(half, normalize([1, 0, 1]))!.displaced / half - 1)).toBeLessThan(1e-9);
  // Flooded it has not so much volume.
  expect(new Hull(chest).floats(half, UP)!.draught).toBeGreaterThan(45);
  const twice = [block([50, 50, 50]), block([50, 50, 50], at(25, 0, 0))];
  const union = new Hull(twice, [overlapOf(twice).segments]);
  expect(union.floats((75 * 50 * 50) / 2, UP)!.draught).toBeCloseTo(25, 0);
  expect(new Hull(twice).floats((75 * 50 * 50) / 2, UP)!.draught).toBeLessThan(20);
});

test('a round hull: draught and metacentric height are within their bounds, however coarse its mesh', () => {
  for (const n of [24, 60, 200]) {
    const [r, length, share] = [50, 300, 0.3];
    const mesh = cylinder(r, length, n);
    const round = Uint8Array.from({ length: 4 * n }, (_, t) => (t % 4 > 1 ? 1 : 0));
    const chord = r * (1 - Math.cos(Math.PI / n));
    const hull = new Hull([{ ...mesh, round, chord }]);
    // A circular segment: its angle by halving.
    const area = share * Math.PI * r * r;
    let [low, high] = [0, Math.PI];
    for (let i = 0; i < 80; i++) {
      const half = (low + high) / 2;
      if (r * r * (half - Math.sin(half) * Math.cos(half)) < area) low = half;
      else high = half;
    }
    const draught = r - r * Math.cos(low);
    const breadth = 2 * r * Math.sin(low);
    const found = hull.floats(area * length, UP)!;
    expect(Math.abs(found.draught - draught)).toBeLessThanOrEqual(found.within);
    expect(found.within).toBeLessThan(6 * chord);
    // The metacentre of a round hull is its axis, whatever its draught: KM = r.
    const about = hull.metacentre(area * length, [150, 0, -10], UP, [1, 0, 0])!;
    expect(Math.abs(about.height - 10)).toBeLessThanOrEqual(about.within);
    const lengthwise = hull.metacentre(area * length, [150, 0, -10], UP, [0, 1, 0])!;
    const centroid = breadth ** 3 / 12 / area;
    const expected = (breadth * length ** 3) / 12 / (area * length) - centroid + 10;
    expect(Math.abs(lengthwise.height - expected)).toBeLessThanOrEqual(lengthwise.within);
  }
});
