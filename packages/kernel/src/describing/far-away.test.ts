import { placedBox, type MassFigures } from '@bathyscope/core/geometry';
import { IDENTITY, type Mat4, type Vec3 } from '@bathyscope/core/math';
import { buildPartBvh } from '@bathyscope/core/picking';
import { cutComponents, propertiesOfCurves } from '@bathyscope/core/section';
import { describePart } from './describe-part.ts';
import type { LoadedKernel } from '../occt/load.ts';
import { cuttingFrame } from '../sections/cutting-frame.ts';
import { sectionShape } from '../sections/section-shape.ts';
import { madeSolids, type MadeSolids } from '../testing/made-solids.ts';
import { testKernel } from '../testing/test-kernel.ts';

/* A model far from its origin says what it says at its origin (rigid motion changes no figure). */
let kernel: LoadedKernel;
let made: MadeSolids;
beforeAll(async () => {
  kernel = await testKernel();
  made = madeSolids(kernel.oc);
});

/** mm */
const FAR: Vec3[] = [
  [1e6, -2e6, 3e5],
  [1e7, 1e7, -1e7],
];
const flange = () =>
  made.minus(
    made.plus(made.cylinder([0, 0, 0], 40, 12), made.cylinder([0, 0, 12], 20, 30)),
    made.cylinder([0, 0, -1], 12, 60),
    made.cylinder([30, 0, -1], 3.5, 20),
  );

const relative = (found: number, wanted: number, scale = wanted) =>
  Math.abs(found - wanted) / Math.abs(scale);

function expectSameMass(found: MassFigures, wanted: MassFigures, shift: Vec3): void {
  expect(relative(found.volume, wanted.volume)).toBeLessThan(1e-8);
  found.centreOfGravity.forEach((x, k) =>
    expect(Math.abs(x - shift[k] - wanted.centreOfGravity[k])).toBeLessThan(1e-6),
  );
  const scale = wanted.inertia[0][0];
  for (let i = 0; i < 3; i++)
    for (let j = 0; j < 3; j++)
      expect(relative(found.inertia[i][j], wanted.inertia[i][j], scale)).toBeLessThan(1e-8);
}

test.each(FAR)('mass, box, holes and surfaces of a part modelled far away: %d, %d, %d', (...shift) => {
  const here = describePart(kernel.oc, flange());
  const there = describePart(kernel.oc, made.moved(flange(), shift));
  expectSameMass(there.mass!, here.mass!, shift);
  expect(relative(there.area, here.area)).toBeLessThan(1e-9);
  for (let k = 0; k < 3; k++) {
    expect(Math.abs(there.box.min[k] - shift[k] - here.box.min[k])).toBeLessThan(1e-6);
    expect(Math.abs(there.box.max[k] - shift[k] - here.box.max[k])).toBeLessThan(1e-6);
  }
  expect(there.holes.map((h) => [h.diameter, h.depth])).toEqual(
    here.holes.map((h) => [expect.closeTo(h.diameter, 6), expect.closeTo(h.depth, 6)]),
  );
});

test.each(FAR)(
  'the same written as B-splines: analytic shapes are recognised there too: %d, %d, %d',
  (...shift) => {
    const here = describePart(kernel.oc, made.asSplines(flange()));
    const there = describePart(kernel.oc, made.moved(made.asSplines(flange()), shift));
    const kinds = (faces: readonly { surface: string }[]) => faces.map((f) => f.surface).sort();
    expect(kinds(there.faces)).toEqual(kinds(here.faces));
    const diameters = (part: typeof here) => part.holes.map((h) => h.diameter).sort((a, b) => a - b);
    expect(diameters(there)).toEqual(diameters(here).map((d) => expect.closeTo(d, 5)));
    expectSameMass(there.mass!, here.mass!, shift);
  },
);

test('the box of a component placed far away and turned is known in double precision', () => {
  const part = describePart(kernel.oc, flange());
  const [c, s] = [Math.cos(0.3), Math.sin(0.3)];
  const turned: Mat4 = [c, s, 0, 0, -s, c, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  const near = placedBox(part, turned);
  for (const shift of FAR) {
    const box = placedBox(part, [...turned.slice(0, 12), ...shift, 1]);
    for (let k = 0; k < 3; k++) {
      expect(Math.abs(box.min[k] - shift[k] - near.min[k])).toBeLessThan(1e-8);
      expect(Math.abs(box.max[k] - shift[k] - near.max[k])).toBeLessThan(1e-8);
    }
  }
});

test.each(FAR)('sections far away, exact and from the mesh: %d, %d, %d', (...shift) => {
  const shape = made.moved(flange(), shift);
  const normal: Vec3 = [0, 0, 1];
  const plane = { normal, constant: shift[2] + 5 };
  const wanted = Math.PI * (40 ** 2 - 12 ** 2 - 3.5 ** 2);
  const { loops, open } = sectionShape(kernel, shape, cuttingFrame(plane, IDENTITY));
  expect(open).toBe(0);
  const exact = propertiesOfCurves(loops)!;
  expect(relative(exact.area, wanted)).toBeLessThan(1e-8);
  const geometry = describePart(kernel.oc, shape);
  const stored = [...IDENTITY.slice(0, 12), ...geometry.origin, 1] as unknown as Mat4;
  const [cut] = cutComponents([{ geometry, bvh: buildPartBvh(geometry), placement: IDENTITY, stored }], {
    ...plane,
    within: 1e-4,
  });
  expect(cut.open).toEqual([]);
  expect(Math.abs(cut.properties!.area - wanted)).toBeLessThan(
    geometry.chordTolerance * cut.properties!.perimeter,
  );
});
