import fs from 'node:fs';
import {
  fitView,
  FRAMES,
  homeOrientationOf,
  pipOrientation,
  viewRight,
  viewUp,
  type ViewCamera,
} from '@bathyscope/core/camera';
import { hiddenLineDrawing } from '@bathyscope/core/drawing';
import { add, IDENTITY, scale, type Vec3 } from '@bathyscope/core/math';
import { describePart } from './describe-part.ts';
import { DEFAULT_MESH, meshShape, readFace } from './mesh-shape.ts';
import type { LoadedKernel, Occt } from '../occt/load.ts';
import { indexedMap, ShapeType } from '../occt/shapes.ts';
import { readStep } from '../reading/read-step.ts';
import { madeSolids, type MadeSolids } from '../testing/made-solids.ts';
import { publicFile } from '../testing/public-file.ts';
import { testKernel } from '../testing/test-kernel.ts';

/*
 * What is drawn against the exact outline. A convex outline is known by its support function; that of a torus
 * is R·|d across the axis| + r, that of a disc with rounded rims the same and the half of its
 * height that is straight.
 */
let kernel: LoadedKernel;
let made: MadeSolids;
beforeAll(async () => {
  kernel = await testKernel();
  made = madeSolids(kernel.oc);
});

/** The scene of a window of 1280 × 800 with panel and strip. */
const PANE = { width: 938, height: 668 };

const ringed =
  (major: number, minor: number, straight = 0) =>
  (d: Vec3) =>
    major * Math.hypot(d[0], d[1]) + minor * Math.hypot(...d) + straight * Math.abs(d[2]);

const rounded = (radius: number, height: number, fillet: number) => {
  const { oc } = kernel;
  const disc = made.cylinder([0, 0, -height / 2], radius, height);
  const edges = indexedMap(oc, disc, ShapeType.edge);
  const making = new oc.BRepFilletAPI_MakeFillet(disc, oc.ChFi3d_FilletShape.ChFi3d_Rational);
  for (let e = 1; e <= edges.Size(); e++) {
    const edge = oc.TopoDS.Edge_1(edges.FindKey(e));
    if (!oc.BRep_Tool.IsClosed_2 || new oc.BRepAdaptor_Curve_2(edge).IsClosed()) making.Add_2(fillet, edge);
  }
  return making.Shape();
};

test.each([
  ['a torus', () => made.torus([0, 0, 0], 30, 10), ringed(30, 10)],
  ['a thin torus', () => made.torus([0, 0, 0], 50, 3), ringed(50, 3)],
  ['a sphere', () => made.sphere([0, 0, 0], 20), ringed(0, 20)],
  ['a torus stored as a B-spline', () => made.asSplines(made.torus([0, 0, 0], 30, 10)), ringed(30, 10)],
  ['rounded rims stored as B-splines', () => made.asSplines(rounded(40, 20, 6)), ringed(34, 6, 4)],
])('the outline of %s is within half a pixel of the true one when fitted', (_, make, support) => {
  const part = describePart(kernel.oc, make());
  const camera = fitView(
    {
      projection: 'orthographic',
      target: [0, 0, 0],
      orientation: homeOrientationOf('z'),
      height: 1,
      lens: 0.6,
    },
    PANE,
    support,
  );
  for (const view of [
    camera,
    { ...camera, orientation: [0.2, 0.1, 0.4, Math.sqrt(0.79)] as ViewCamera['orientation'] },
  ]) {
    const [right, up] = [viewRight(view), viewUp(view)];
    let most = 0;
    for (let i = 0; i < 180; i++) {
      const d = add(scale(right, Math.cos((i * Math.PI) / 90)), scale(up, Math.sin((i * Math.PI) / 90)));
      let reach = -Infinity;
      for (let p = 0; p < part.mesh.positions.length; p += 3)
        reach = Math.max(
          reach,
          d[0] * part.mesh.positions[p] +
            d[1] * part.mesh.positions[p + 1] +
            d[2] * part.mesh.positions[p + 2],
        );
      most = Math.max(most, Math.abs(support(d) - reach));
    }
    expect((most * PANE.height) / camera.height).toBeLessThan(0.5);
  }
});

test('with fewer triangles in all than the kernel makes', () => {
  const { oc } = kernel;
  const model = readStep(kernel, fs.readFileSync(publicFile('io1-cm-214.stp')), 'Test', () => {});
  const shapes = [
    ...model.parts.map((p) => p.shape),
    rounded(40, 20, 6),
    made.sphere([0, 0, 0], 20),
    made.asSplines(made.torus([0, 0, 0], 30, 10)),
  ];
  let [ours, kernels] = [0, 0];
  for (const shape of shapes) {
    meshShape(oc, shape, DEFAULT_MESH);
    const faces = indexedMap(oc, shape, ShapeType.face);
    for (let f = 1; f <= faces.Size(); f++) kernels += readFace(oc, faces.FindKey(f)).indices.length / 3;
    ours += describePart(oc, shape).mesh.indices.length / 3;
  }
  model.dispose();
  expect(kernels).toBeGreaterThan(10_000);
  expect(ours).toBeLessThan(0.8 * kernels);
});

/** mm of visible lines seen from a direction. */
function visible(shape: Occt, toward: Vec3): number {
  const { curves } = hiddenLineDrawing(
    [{ geometry: describePart(kernel.oc, shape), placement: IDENTITY }],
    pipOrientation(toward, FRAMES.z),
    {
      hidden: false,
      smooth: false,
    },
  );
  return curves.reduce(
    (sum, c) =>
      sum +
      (c.shape === 'line'
        ? Math.hypot(c.to[0] - c.from[0], c.to[1] - c.from[1])
        : c.shape === 'arc'
          ? c.radius * Math.abs(c.to - c.from)
          : c.points.reduce(
              (l, p, i) => (i ? l + Math.hypot(p[0] - c.points[i - 1][0], p[1] - c.points[i - 1][1]) : 0),
              0,
            )),
    0,
  );
}

test('a line drawing of a block with a through hole, seen square on, and of a torus: all of the outline is visible', () => {
  const block = made.minus(made.box([0, 0, 0], [50, 40, 30]), made.cylinder([25, 20, -1], 8, 40));
  expect(visible(block, [0, -1, 0])).toBeCloseTo(160, 4);
  expect(visible(block, [1, 0, 0])).toBeCloseTo(140, 4);
  expect(visible(block, [0, 0, 1])).toBeCloseTo(180 + 16 * Math.PI, 2);
  const torus = made.torus([0, 0, 0], 20, 5);
  // From above both circles; from the side two half circles and the two lines that touch both.
  expect(visible(torus, [0, 0, 1]) / (2 * Math.PI * 40)).toBeCloseTo(1, 2);
  expect(visible(torus, [1, 0, 0])).toBeGreaterThan(2 * 40 + 10 * Math.PI - 1);
});
