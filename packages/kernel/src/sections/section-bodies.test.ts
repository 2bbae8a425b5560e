import { addScaled, IDENTITY, multiply, type Vec3 } from '@bathyscope/core/math';
import { buildPartBvh } from '@bathyscope/core/picking';
import {
  cutComponents,
  cutsAgree,
  planeFrame,
  pointsAlong,
  propertiesOfCurves,
} from '@bathyscope/core/section';
import { describePart } from '../describing/describe-part.ts';
import type { LoadedKernel, Occt } from '../occt/load.ts';
import { explore, ShapeType } from '../occt/shapes.ts';
import { cuttingFrame, NoSection } from './cutting-frame.ts';
import { sectionShape } from './section-shape.ts';
import { madeSolids, type MadeSolids } from '../testing/made-solids.ts';
import { testKernel } from '../testing/test-kernel.ts';

/*
 * Cuts of solids made here, against closed forms; the mesh's cut must agree with sign, within its own bound.
 */
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
  const [cut] = cutComponents([{ geometry, bvh: buildPartBvh(geometry), placement: IDENTITY, stored }], {
    ...plane,
    within: 1e-5,
  });
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
    expectArea(
      minus(cylinder([0, 0, 0], 50, 20), cylinder([0, 0, -1], 50 - wall, 22)),
      [0, 0, 1],
      10,
      Math.PI * wall * (100 - wall),
    );
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
  expect(cutOf(stepped, [0, 0, 1], 10).tolerance).toBe(0);
});

test('where walls lean gently to a face in the plane, its own outline is taken', () => {
  // A flat cone frustum, its top of radius 2 in the plane: 1e-5 mm lower its radius is
  // larger by 48 times that.
  const cut = cutOf(cone([0, 0, 0], 50, 2, 1), [0, 0, 1], 1);
  expect(cut.exact).toBeCloseTo(4 * Math.PI, 10);
  expect(cut.tolerance).toBe(0);
  // A prism that leans over.
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
  expect(cutOf(leaning, [0, 0, 1], 1)).toMatchObject({ exact: expect.closeTo(100, 9), tolerance: 0 });
});

describe('a plane that only touches what is round', () => {
  /** All edges at a height rounded. */
  const rounded = (shape: Occt, height: number, radius: number): Occt => {
    const maker = new oc.BRepFilletAPI_MakeFillet(shape, oc.ChFi3d_FilletShape.ChFi3d_Rational);
    explore(oc, shape, ShapeType.edge, (s) => {
      const edge = oc.TopoDS.Edge_1(s);
      const curve = new oc.BRepAdaptor_Curve_2(edge);
      const at = [0, 0.3, 1].map(
        (t) =>
          curve
            .Value(curve.FirstParameter() + t * (curve.LastParameter() - curve.FirstParameter()))
            .Z() as number,
      );
      if (at.every((z) => Math.abs(z - height) < 1e-9)) maker.Add_2(radius, edge);
    });
    return maker.Shape();
  };

  test('a face with tangent fillets round it: its own outline, where one a hair lower lies far outside', () => {
    expectArea(rounded(box([0, 0, 0], [30, 20, 10]), 10, 2), [0, 0, 1], 10, 26 * 16);
    expectArea(rounded(box([0, 0, 0], [36, 36, 10]), 10, 3), [0, 0, 1], 10, 900);
    expectArea(rounded(cylinder([0, 0, 0], 14, 10), 10, 2), [0, 0, 1], 10, 144 * Math.PI);
    // With a pocket whose rim is rounded, and seen from below.
    const pocket = rounded(minus(box([0, 0, 0], [60, 40, 20]), cylinder([20, 20, 8], 6, 20)), 20, 1.5);
    expectArea(pocket, [0, 0, 1], 20, 57 * 37 - Math.PI * 7.5 ** 2);
    expectArea(pocket, [0, 0, -1], 0, 60 * 40);
    for (const cut of [cutOf(pocket, [0, 0, 1], 20), cutOf(pocket, [0, 0, 1], 8)])
      expect(cut.tolerance).toBeLessThan(1e-6);
  });

  test('the crown of a torus, the side of a cylinder, a sphere, the slope of a cone: nothing is cut, and the mesh does not object', () => {
    const { torus, sphere, turned } = madeSolids(oc);
    const slope = Math.atan2(15, 40);
    for (const [shape, normal, constant] of [
      [torus([0, 0, 0], 30, 8), [0, 0, 1], 8],
      [torus([0, 0, 0], 30, 8), [0, 0, -1], 8],
      [cylinder([0, 0, 0], 12, 50), [1, 0, 0], 12],
      [turned(cylinder([0, 0, 0], 12, 50), [0, 0, 1], 0.7), [1, 0, 0], 12],
      [sphere([0, 0, 0], 20), [0, 0, 1], 20],
      [cone([0, 0, 0], 20, 5, 40), [Math.cos(slope), 0, Math.sin(slope)], 20 * Math.cos(slope)],
    ] as const) {
      const plane = { normal: normal as Vec3, constant };
      const exact = sectionShape(kernel, shape, cuttingFrame(plane, IDENTITY));
      expect({ loops: exact.loops, open: exact.open }).toEqual({ loops: [], open: 0 });
      const geometry = describePart(oc, shape);
      const [cut] = cutComponents(
        [{ geometry, bvh: buildPartBvh(geometry), placement: IDENTITY, stored: IDENTITY }],
        {
          ...plane,
          within: 1e-5,
        },
      );
      expect(
        cutsAgree(exact, cut ?? { loops: [], lean: { mean: 1, most: 1 } }, geometry.chordTolerance),
      ).toBe(true);
    }
  });

  test('a thin cap off a ball: the exact cut stands although the mesh is poor there', () => {
    const { sphere } = madeSolids(oc);
    const shape = sphere([0, 0, 0], 20);
    const plane = { normal: [0, 0, 1] as Vec3, constant: 19.99 };
    const exact = sectionShape(kernel, shape, cuttingFrame(plane, IDENTITY));
    expect(propertiesOfCurves(exact.loops)!.area).toBeCloseTo(Math.PI * (2 * 20 * 0.01 - 1e-4), 9);
    const geometry = describePart(oc, shape);
    const [cut] = cutComponents(
      [{ geometry, bvh: buildPartBvh(geometry), placement: IDENTITY, stored: IDENTITY }],
      {
        ...plane,
        within: 1e-5,
      },
    );
    expect(cutsAgree(exact, cut ?? { loops: [], lean: { mean: 1, most: 1 } }, geometry.chordTolerance)).toBe(
      true,
    );
    // But not what is far from any cap.
    expect(
      cutsAgree(
        {
          ...exact,
          loops: sectionShape(kernel, shape, cuttingFrame({ ...plane, constant: 10 }, IDENTITY)).loops,
        },
        cut!,
        geometry.chordTolerance,
      ),
    ).toBe(false);
  });
});

describe('free curves are followed on the surface itself', () => {
  const { hypot, abs } = Math;
  const corners = (exact: ReturnType<typeof sectionShape>): Vec3[][] =>
    exact.loops.map((loop) =>
      loop.flatMap((c) => {
        const points = pointsAlong(c, 0.01);
        // Middles, too: that is where a polyline is farthest off.
        return points.flatMap(([x, y], i): Vec3[] => [
          [x, y, 0],
          ...(i ? [[(x + points[i - 1][0]) / 2, (y + points[i - 1][1]) / 2, 0] as Vec3] : []),
        ]);
      }),
    );
  const cutAt = (shape: Occt, normal: Vec3, constant: number) =>
    sectionShape(kernel, shape, cuttingFrame({ normal, constant }, IDENTITY));
  const frame = (normal: Vec3, constant: number) => planeFrame({ normal, constant });

  test('a sphere of B-splines cut anywhere is a circle to rounding', () => {
    const { sphere, asSplines } = madeSolids(oc);
    const exact = cutAt(asSplines(sphere([0, 0, 0], 20)), [0.48, 0.6, 0.64], 7.3);
    expect(propertiesOfCurves(exact.loops)!.area).toBeCloseTo(Math.PI * (400 - 7.3 ** 2), 8);
    expect(exact.tolerance).toBeLessThan(1e-6);
    expect(exact.loops.flat().map((c) => c.shape)).toEqual(exact.loops.flat().map(() => 'arc'));
  });

  test.each([
    // Off a torus of radii 30 and 8, off a cone, and off an extruded ellipse, by how far a point is from the
    // surface in the plane.
    [
      'a torus',
      () => madeSolids(oc).torus([0, 0, 0], 30, 8),
      [0, 0.6, 0.8],
      3,
      ([x, y, z]: Vec3) => abs(hypot(hypot(x, y) - 30, z) - 8),
    ],
    [
      'a cone, in a hyperbola',
      () => cone([0, 0, 0], 20, 5, 60),
      [1, 0, 0],
      3,
      ([x, y, z]: Vec3) => (z < 1e-6 || z > 60 - 1e-6 ? 0 : abs(hypot(x, y) - 20 + z / 4) * 0.9701425),
    ],
    [
      'an extruded ellipse',
      () =>
        madeSolids(oc).extruded(
          [0, 0, 30],
          [{ kind: 'conic', centre: [0, 0], a: [18, 0], b: [0, 9], from: 0, to: 2 * Math.PI }],
        ),
      [0, 0.6, 0.8],
      12,
      offEllipse,
    ],
    [
      'a torus of B-splines',
      () => madeSolids(oc).asSplines(madeSolids(oc).torus([0, 0, 0], 30, 8)),
      [0, 0.6, 0.8],
      3,
      ([x, y, z]: Vec3) => abs(hypot(hypot(x, y) - 30, z) - 8),
    ],
  ] as [string, () => Occt, Vec3, number, (p: Vec3) => number][])(
    '%s: nowhere farther off than is told',
    (_, make, normal, constant, off) => {
      const exact = cutAt(make(), normal, constant);
      expect(exact.open).toBe(0);
      expect(exact.loops.length).toBeGreaterThan(0);
      const { origin, u, v } = frame(normal, constant);
      let most = 0;
      for (const points of corners(exact))
        for (const [x, y] of points) most = Math.max(most, off(addScaled(addScaled(origin, u, x), v, y)));
      // A distance in the plane is larger than one to the surface by what the plane leans: more than it is.
      expect(most).toBeLessThanOrEqual(exact.tolerance + 1e-9);
      expect(exact.tolerance).toBeLessThanOrEqual(1e-4);
      expect(exact.tolerance).toBeGreaterThan(0);
    },
  );
});

/** From the ellipse of half axes 18 and 9, of what lies between the ends at 0 and 30. */
function offEllipse([x, y, z]: Vec3): number {
  if (z < 1e-6 || z > 30 - 1e-6) return 0;
  let t = Math.atan2(y / 9, x / 18);
  for (let i = 0; i < 30; i++) {
    const [px, py, dx, dy] = [18 * Math.cos(t), 9 * Math.sin(t), -18 * Math.sin(t), 9 * Math.cos(t)];
    t += ((x - px) * dx + (y - py) * dy) / (dx * dx + dy * dy + (x - px) * px + (y - py) * py);
  }
  return Math.hypot(x - 18 * Math.cos(t), y - 9 * Math.sin(t));
}

test('a plane tangent to a bore, and to a boss', () => {
  const bored = minus(box([-20, -20, 0], [20, 20, 30]), cylinder([0, 0, -1], 8, 40));
  expectArea(bored, [1, 0, 0], 8, 40 * 30);
  expectArea(bored, [-1, 0, 0], -8, 40 * 30);
});

test('what is too small for the kernel is refused, not answered wrongly', () => {
  expect(() => cutOf(box([0, 0, 0], [1e-3, 1e-3, 1e-3]), [0, 0, 1], 5e-4)).toThrow(NoSection);
  expectArea(box([0, 0, 0], [0.05, 0.05, 0.05]), [0, 0, 1], 0.02, 0.0025, 10);
});
