import fc from 'fast-check';
import { placedBox, type PartGeometry } from '@bathyscope/core/geometry';
import {
  IDENTITY,
  multiply,
  dot,
  normalize,
  rotationAbout,
  rotate,
  type Mat4,
  type Vec3,
} from '@bathyscope/core/math';
import { buildPartBvh } from '@bathyscope/core/picking';
import {
  cutComponents,
  cutsAgree,
  flushWithin,
  propertiesOfCurves,
  type ComponentCut,
  type CutPlane,
} from '@bathyscope/core/section';
import { describePart } from '../describing/describe-part.ts';
import type { LoadedKernel, Occt } from '../occt/load.ts';
import { cuttingFrame, NoSection } from './cutting-frame.ts';
import { sectionShape, type ShapeSection } from './section-shape.ts';
import { madeSolids, type MadeSolids } from '../testing/made-solids.ts';
import { testKernel } from '../testing/test-kernel.ts';

/*
 * Random planes through random solids, placed at random, mirrored and far away: the exact cut agrees with the
 * mesh's within the mesh's bound, outline by outline and with sign; it is the same wherever the solid is
 * moved to, and written as B-splines.
 */
let kernel: LoadedKernel;
let made: MadeSolids;
beforeAll(async () => {
  kernel = await testKernel();
  made = madeSolids(kernel.oc);
});

/** To a thousandth. */
const size = (min: number, max: number) =>
  fc.integer({ min: Math.ceil(min * 1000), max: Math.floor(max * 1000) }).map((n) => n / 1000);
const direction = fc
  .tuple(size(-1, 1), size(-1, 1), size(-1, 1))
  .filter((v) => Math.hypot(...v) > 0.2)
  .map((v) => normalize(v));

type Recipe = { name: string; make: () => Occt };
const recipes: fc.Arbitrary<Recipe> = fc.oneof(
  fc
    .tuple(size(2, 40), size(2, 40), size(2, 40))
    .map(([a, b, c]) => ({ name: `box ${a} ${b} ${c}`, make: () => made.box([0, 0, 0], [a, b, c]) })),
  fc.tuple(size(5, 40), size(1e-3, 0.9), size(5, 60)).map(([r, wall, h]) => ({
    name: `tube ${r} wall ${wall} high ${h}`,
    make: () => made.minus(made.cylinder([0, 0, 0], r, h), made.cylinder([0, 0, -1], r * (1 - wall), h + 2)),
  })),
  fc.tuple(size(10, 30), size(2, 9)).map(([a, r]) => ({
    name: `box ${a} with a ball of ${r}`,
    make: () => made.minus(made.box([-a, -a, -a], [a, a, a]), made.sphere([0, 0, 0], r)),
  })),
  fc.tuple(size(5, 20), size(5, 20), size(5, 20)).map(([a, b, c]) => ({
    name: `two boxes that touch ${a} ${b} ${c}`,
    make: () => made.together(made.box([0, 0, 0], [a, 10, 10]), made.box([a, 0, 0], [a + b, 10, c])),
  })),
  fc.tuple(size(10, 30), size(1, 3), size(5, 40)).map(([r, hole, h]) => ({
    name: `cone ${r} high ${h} bored ${hole}`,
    make: () => made.minus(made.cone([0, 0, 0], r, r / 3, h), made.cylinder([0, 0, -1], hole, h + 2)),
  })),
  fc
    .tuple(size(10, 30), size(1, 9))
    .map(([r, tube]) => ({ name: `torus ${r} ${tube}`, make: () => made.torus([0, 0, 0], r, tube) })),
);

const placements: fc.Arbitrary<Mat4> = fc
  .tuple(
    direction,
    size(0, 3),
    fc.boolean(),
    fc.constantFrom<Vec3>([0, 0, 0], [37, -120, 5], [1e6, -2e6, 1e6]),
  )
  .map(([axis, angle, mirrored, at]) => {
    const turn = rotationAbout(axis, angle);
    const columns = (
      [
        [mirrored ? -1 : 1, 0, 0],
        [0, 1, 0],
        [0, 0, 1],
      ] as Vec3[]
    ).map((e) => rotate(turn, e));
    return [...columns.flatMap((c) => [...c, 0]), ...at, 1] as unknown as Mat4;
  });

/** A plane through a share of a placed part's extent along its normal. */
function planeThrough(shape: Occt, placement: Mat4, normal: Vec3, share: number) {
  const geometry = describePart(kernel.oc, shape);
  const box = placedBox(geometry, placement);
  const reach = (s: number) =>
    [0, 1, 2].reduce((sum, k) => sum + (normal[k] * s > 0 ? box.max[k] : box.min[k]) * normal[k], 0);
  return {
    geometry,
    plane: { normal, constant: reach(-1) + (reach(1) - reach(-1)) * share, within: flushWithin(box) },
  };
}

/**
 * The cut by the mesh, and the kernel's loops; null where there are none that close and agree with the mesh,
 * which then stands.
 */
function cutBoth(
  shape: Occt,
  geometry: PartGeometry,
  plane: CutPlane,
  placement: Mat4,
): { mesh: ComponentCut | undefined; exact: ShapeSection | null } {
  const stored = multiply(placement, [...IDENTITY.slice(0, 12), ...geometry.origin, 1]);
  const [mesh] = cutComponents([{ geometry, bvh: buildPartBvh(geometry), placement, stored }], plane);
  try {
    const exact = sectionShape(kernel, shape, cuttingFrame(plane, placement));
    const agree =
      exact.open === 0 &&
      cutsAgree(exact, mesh ?? { loops: [], lean: { mean: 1, most: 1 } }, geometry.chordTolerance);
    return { mesh, exact: agree ? exact : null };
  } catch (error) {
    // The kernel's own exceptions are numbers.
    if (error instanceof NoSection || typeof error === 'number') return { mesh, exact: null };
    throw error;
  }
}

test('exact and mesh cuts agree, with sign, wherever the solid is and however it is mirrored', () => {
  const refused: string[] = [];
  const cases = fc.tuple(recipes, placements, direction, size(0.02, 0.98));
  for (const [{ name, make }, placement, normal, share] of fc.sample(cases, {
    numRuns: 30,
    seed: 20261126,
  })) {
    const shape = make();
    const { geometry, plane } = planeThrough(shape, placement, normal, share);
    const { mesh, exact } = cutBoth(shape, geometry, plane, placement);
    expect({ name, open: mesh?.open ?? [] }).toEqual({ name, open: [] });
    if (!exact) refused.push(name);
  }
  // The kernel's section fails in silence now and then; the mesh tells, and stands.
  // It must stay an exception.
  expect(refused.length).toBeLessThanOrEqual(1);
});

test('moving and turning change no area, nor does writing the solid as B-splines', () => {
  let refused = 0;
  const cases = fc.tuple(recipes, direction, size(0.1, 0.9), direction, size(0.1, 3));
  for (const [{ name, make }, normal, share, axis, angle] of fc.sample(cases, {
    numRuns: 12,
    seed: 20261127,
  })) {
    const shape = make();
    const { geometry, plane } = planeThrough(shape, IDENTITY, normal, share);
    const turned = rotate(rotationAbout(axis, angle), normal);
    const shift: Vec3 = [300, -200, 100];
    const here = cutBoth(shape, geometry, plane, IDENTITY).exact;
    const moved = made.moved(made.turned(shape, axis, angle), shift);
    const splines = made.asSplines(shape);
    const there = { normal: turned, constant: plane.constant + dot(turned, shift) };
    for (const other of [
      cutBoth(moved, describePart(kernel.oc, moved), there, IDENTITY).exact,
      cutBoth(splines, describePart(kernel.oc, splines), plane, IDENTITY).exact,
    ])
      if (!here || !other) refused++;
      else {
        const [a, b] = [here, other].map((cut) => propertiesOfCurves(cut.loops) ?? { area: 0, perimeter: 0 });
        const within = (here.tolerance + other.tolerance) * a.perimeter + 1e-7 * a.area;
        expect([name, Math.abs(a.area - b.area) <= within]).toEqual([name, true]);
      }
  }
  expect(refused).toBeLessThanOrEqual(4);
});
