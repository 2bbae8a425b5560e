import { cutComponents, buildPartBvh, IDENTITY, multiply, propertiesOfCurves, type Vec3 } from '@bathyscope/core';
import { describePart } from './describe-part.ts';
import type { LoadedKernel, Occt } from './occt/load.ts';
import { cuttingFrame, NoSection, sectionShape } from './section-shape.ts';
import { madeSolids, type MadeSolids } from './testing/made-solids.ts';
import { testKernel } from './testing/test-kernel.ts';

/* Cuts of solids made here, against closed forms; the mesh's cut must agree with sign, within its own bound. */
let kernel: LoadedKernel;
let oc: Occt;
let { box, cylinder, cone, minus, plus, together }: MadeSolids = {} as MadeSolids;
beforeAll(async () => {
  kernel = await testKernel();
  oc = kernel.oc;
  ({ box, cylinder, cone, minus, plus, together } = madeSolids(oc));
});

/** Area by the kernel and by the mesh of a cut that takes away what lies beyond `constant` along `normal`. */
function cutOf(
  shape: Occt,
  normal: Vec3,
  constant: number,
): { exact: number; mesh: number; open: number; tolerance: number; bound: number } {
  const plane = { normal, constant };
  const { loops, open, tolerance } = sectionShape(kernel, shape, cuttingFrame(plane, IDENTITY));
  const geometry = describePart(oc, shape);
  const stored = multiply(IDENTITY, [...IDENTITY.slice(0, 12), ...geometry.origin, 1]);
  const [cut] = cutComponents([{ geometry, bvh: buildPartBvh(geometry), placement: IDENTITY, stored }], { ...plane, within: 1e-5 });
  return {
    exact: propertiesOfCurves(loops)?.area ?? 0,
    mesh: cut?.properties?.area ?? 0,
    open: open + (cut?.open.length ?? 0),
    tolerance,
    bound: geometry.chordTolerance * (cut?.properties?.perimeter ?? 0) + 1e-6,
  };
}

function expectArea(shape: Occt, normal: Vec3, constant: number, area: number, digits = 8): void {
  const cut = cutOf(shape, normal, constant);
  expect(cut.open).toBe(0);
  expect(cut.exact).toBeCloseTo(area, digits);
  expect(Math.abs(cut.mesh - area)).toBeLessThanOrEqual(cut.bound);
}

test('thin tubes are rings, at any wall', () => {
  for (const wall of [1, 0.1, 0.01])
    expectArea(minus(cylinder([0, 0, 0], 50, 20), cylinder([0, 0, -1], 50 - wall, 22)), [0, 0, 1], 10, Math.PI * wall * (100 - wall));
});

test('a post with a collar, cut through both', () => {
  const post = plus(cylinder([0, 0, 0], 80, 10), box([-20, -20, 10], [20, 20, 60]));
  expectArea(minus(post, cylinder([0, 0, -1], 5, 100)), [0, 0, 1], 5, Math.PI * (80 ** 2 - 25));
  expectArea(minus(post, cylinder([0, 0, -1], 5, 100)), [0, 0, 1], 30, 1600 - 25 * Math.PI);
});

test('bodies that touch are cut one by one: side by side, and one in the pocket of the other', () => {
  const pair = together(box([0, 0, 0], [10, 10, 10]), box([10, 0, 0], [20, 10, 10]));
  expectArea(pair, [0, 0, 1], 5, 200);
  expectArea(pair, [0, 1, 0], 5, 200);
  const pocket = minus(box([0, 0, 0], [30, 30, 10]), box([10, 10, 4], [20, 20, 10]));
  expectArea(together(pocket, box([10, 10, 4], [20, 20, 10])), [0, 0, 1], 7, 900);
  expectArea(together(pocket, box([10, 10, 4], [20, 20, 10])), [1, 0, 0], 15, 300);
});

test('a plane in a face with a step shows the material behind it, whichever side is taken away', () => {
  const stepped = plus(box([0, 0, 0], [40, 20, 10]), box([0, 0, 10], [15, 20, 25]));
  // Beyond z = 10 taken away: the base. Below taken away: what stands on it.
  expectArea(stepped, [0, 0, 1], 10, 800);
  expectArea(stepped, [0, 0, -1], -10, 300);
  expect(cutOf(stepped, [0, 0, 1], 10).tolerance).toBe(1e-5);
});

test('where walls lean gently to a face in the plane, the outlines are told to be as far off as they are', () => {
  // A flat cone frustum, its top of radius 2 in the plane: 1e-5 mm lower its radius is larger by 48 times that.
  const cut = cutOf(cone([0, 0, 0], 50, 2, 1), [0, 0, 1], 1);
  expect(cut.tolerance).toBeCloseTo(48e-5, 5);
  expect(Math.abs(Math.sqrt(cut.exact / Math.PI) - 2)).toBeLessThanOrEqual(cut.tolerance * 1.001);
  // A prism that leans over keeps its area, and its outline moves sideways all the same.
  const points: Vec3[] = [
    [0, 0, 0],
    [10, 0, 0],
    [60, 0, 1],
    [50, 0, 1],
  ];
  const wire = new oc.BRepBuilderAPI_MakePolygon_1();
  for (const p of points) wire.Add_1(new oc.gp_Pnt_3(...p));
  wire.Close();
  const face = new oc.BRepBuilderAPI_MakeFace_15(wire.Wire(), true).Face();
  const leaning = new oc.BRepPrimAPI_MakePrism_1(face, new oc.gp_Vec_4(0, 10, 0), false, true).Shape();
  const moved = cutOf(leaning, [0, 0, 1], 1);
  expect(moved.exact).toBeCloseTo(100, 6);
  expect(moved.tolerance).toBeCloseTo(50e-5, 5);
});

test('a plane tangent to a bore, and to a boss', () => {
  const bored = minus(box([-20, -20, 0], [20, 20, 30]), cylinder([0, 0, -1], 8, 40));
  expectArea(bored, [1, 0, 0], 8, 40 * 30);
  expectArea(bored, [-1, 0, 0], -8, 40 * 30);
});

test('what is too small for the kernel is refused, not answered wrongly', () => {
  expect(() => cutOf(box([0, 0, 0], [1e-3, 1e-3, 1e-3]), [0, 0, 1], 5e-4)).toThrow(NoSection);
  expectArea(box([0, 0, 0], [0.05, 0.05, 0.05]), [0, 0, 1], 0.02, 0.0025, 10);
});
