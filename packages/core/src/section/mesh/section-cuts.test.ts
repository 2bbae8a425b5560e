import fc from 'fast-check';
import ManifoldModule from 'manifold-3d';

import { lookFrom } from '../../math/quaternion.ts';
import { type Mat4 } from '../../math/mat4.ts';
import { dot, length, normalize, scale, subtract, type Vec3 } from '../../math/vec3.ts';
import { project, type ViewCamera } from '../../camera/view-camera.ts';

import type { PartGeometry } from '../../geometry/part-geometry.ts';
import { boxPart } from '../../testing/box-part.ts';
import { cylinderPart, spherePart, turnedPart } from '../../testing/round-parts.ts';
import { fromPlane, isWithinLoops, planeFrame } from './cap-of-loops.ts';
import { cutComponents } from './cut-components.ts';
import { layerNames, writeCutSvg } from '../../drawing/cut-drawing.ts';
import { curvesOfLoop } from '../curves/curves-of-loop.ts';
import { HATCHES } from '../hatch-patterns.ts';
import { isLeftWhole } from '../planes/left-whole.ts';
import { pickCut } from '../pick-cut.ts';
import {
  curveLength,
  pointsAlong,
  propertiesOfCurves,
  reverseCurve,
  type PlaneCurve,
} from '../curves/plane-curves.ts';
import type { CutPlane } from './slice-mesh.ts';
import { wholeReason } from '../planes/suggest-whole.ts';
import { arc, circle, placed, profile, Q } from '../../testing/plane-shapes.ts';

const near = (found: number, wanted: number, relative: number) =>
  expect(Math.abs(found / wanted - 1)).toBeLessThan(relative);

const torus = (R: number, r: number, n = 96) =>
  turnedPart(
    Array.from({ length: n }, (_, i): [number, number] => [
      R + r * Math.cos((2 * Math.PI * i) / n),
      r * Math.sin((2 * Math.PI * i) / n),
    ]),
    192,
  );

describe('cutting solids of known sections', () => {
  const cut = (part: PartGeometry, normal: Vec3, constant: number, placement?: Mat4) =>
    cutComponents([placed(part, placement)], { normal: normalize(normal), constant })[0];

  test('a torus both ways: a ring of two circles, two discs; a tube; a cone cut aslant in an ellipse', () => {
    const [R, r] = [20, 6];
    const flat = cut(torus(R, r), [0, 0, 1], 1.5);
    expect(flat.loops).toHaveLength(2);
    const w = Math.sqrt(r * r - 1.5 ** 2);
    near(flat.properties!.area, Math.PI * ((R + w) ** 2 - (R - w) ** 2), 2e-3);
    const upright = cut(torus(R, r), [0, 1, 0], 0);
    expect(upright.loops).toHaveLength(2);
    near(upright.properties!.area, 2 * Math.PI * r * r, 2e-3);
    const tube = cut(
      turnedPart(
        [
          [8, 0],
          [10, 0],
          [10, 50],
          [8, 50],
        ],
        256,
      ),
      [0, 0, 1],
      20,
    );
    near(tube.properties!.area, Math.PI * 36, 5e-4);
    near(tube.properties!.polar, Q * (10 ** 4 - 8 ** 4), 1e-3);
    // Cone of half angle 45° with a bore too thin to matter; a plane whose normal is 30° off the axis cuts an
    // ellipse of semi-axes h·sinα·cosα·… : with d = distance of the apex from the plane, a =
    // d·sinα·cosα/(cos²θ − sin²α), b = d·sinα/√(cos²θ − sin²α).
    const cone = turnedPart(
      [
        [1e-4, 0],
        [100, 0],
        [1e-4, 100],
      ],
      512,
    );
    const [alpha, theta] = [Math.PI / 4, Math.PI / 6];
    const normal: Vec3 = [Math.sin(theta), 0, Math.cos(theta)];
    const d = 20;
    const k = Math.cos(theta) ** 2 - Math.sin(alpha) ** 2;
    const [a, b] = [(d * Math.sin(alpha) * Math.cos(alpha)) / k, (d * Math.sin(alpha)) / Math.sqrt(k)];
    near(cut(cone, normal, 100 * Math.cos(theta) - d).properties!.area, Math.PI * a * b, 2e-3);
  });

  test('figures do not depend on where and how the part lies, mirrored or not; only closed loops come from any plane', () => {
    const unit = fc.double({ min: -1, max: 1, noNaN: true });
    const vector = fc
      .tuple(unit, unit, unit)
      .filter((v) => length(v) > 0.2)
      .map((v) => normalize(v));
    const parts = [boxPart(10, 20, 30), cylinderPart(5, 20), spherePart(8), torus(12, 4, 24)];
    fc.assert(
      fc.property(
        fc.nat(3),
        vector,
        fc.integer({ min: -50, max: 50 }),
        vector,
        fc.boolean(),
        (i, normal, offset, axis, mirrored) => {
          // Never exactly through a corner or a face.
          const constant = offset * 0.12 + 0.0037;
          const plain = cut(parts[i], normal, constant);
          // A reflection or a half turn about an axis through the origin: both their own inverse.
          const m = (v: Vec3): Vec3 =>
            mirrored
              ? subtract(v, scale(axis, 2 * dot(v, axis)))
              : subtract(scale(axis, 2 * dot(v, axis)), v);
          const columns = (
            [
              [1, 0, 0],
              [0, 1, 0],
              [0, 0, 1],
            ] as Vec3[]
          ).map(m);
          const shift: Vec3 = [300, -200, 100];
          const placement: Mat4 = [...columns.flatMap((c) => [...c, 0]), ...shift, 1];
          const moved = cut(parts[i], m(normal), constant + dot(m(normal), shift), placement);
          expect(plain?.open ?? []).toEqual([]);
          expect(moved?.open ?? []).toEqual([]);
          if (!plain?.properties) return;
          near(moved.properties!.area, plain.properties.area, 1e-6);
          near(moved.properties!.principal[0], plain.properties.principal[0], 1e-6);
        },
      ),
      { numRuns: 60 },
    );
  });

  test('areas of random planes agree with the slices of manifold-3d 3.5.4, an independent library', async () => {
    const api = await ManifoldModule();
    api.setup();
    for (const part of [
      boxPart(10, 20, 30),
      cylinderPart(5, 20),
      torus(12, 4, 24),
      turnedPart([
        [3, 0],
        [9, 0],
        [9, 4],
        [5, 6],
        [5, 12],
        [3, 12],
      ]),
    ]) {
      const mesh = new api.Mesh({
        numProp: 3,
        vertProperties: Float32Array.from(part.mesh.positions),
        triVerts: Uint32Array.from(part.mesh.indices),
      });
      mesh.merge();
      const solid = api.Manifold.ofMesh(mesh);
      for (const [phi, lift, h] of [
        [0, 0, 3.3],
        [35, 50, 2.1],
        [120, 75, -1.7],
        [200, 20, 4.4],
      ]) {
        // Turned so that the plane becomes a level one.
        const [p, t] = [(phi * Math.PI) / 180, (lift * Math.PI) / 180];
        const normal: Vec3 = [Math.sin(t) * Math.cos(p), Math.sin(t) * Math.sin(p), Math.cos(t)];
        const slice = solid.rotate([0, 0, -phi]).rotate([0, -lift, 0]).slice(h);
        const wanted = slice.area();
        const found = cut(part, normal, h)?.properties?.area ?? 0;
        expect(Math.abs(found - wanted)).toBeLessThan(1e-4 * Math.max(1, wanted));
      }
    }
  });

  test('holes in holes, and two bodies that touch in one part: every piece counted once', () => {
    const join = (...parts: PartGeometry[]): PartGeometry => {
      const positions: number[] = [];
      const indices: number[] = [];
      for (const { mesh } of parts) {
        const base = positions.length / 3;
        positions.push(...mesh.positions);
        indices.push(...[...mesh.indices].map((i) => i + base));
      }
      return {
        ...parts[0],
        box: { min: [-100, -100, -100], max: [100, 100, 100] },
        mesh: {
          ...parts[0].mesh,
          positions: Float32Array.from(positions),
          indices: Uint32Array.from(indices),
        },
      };
    };
    const ring = (r: number, R: number) =>
      turnedPart(
        [
          [r, 0],
          [R, 0],
          [R, 10],
          [r, 10],
        ],
        256,
      );
    const nested = cut(join(ring(2, 4), ring(6, 8), ring(10, 12)), [0, 0, 1], 5);
    expect(nested.loops).toHaveLength(6);
    near(nested.properties!.area, Math.PI * (12 + 28 + 44), 5e-4);
    const moved = boxPart(10, 10, 10);
    const beside = {
      ...moved,
      mesh: { ...moved.mesh, positions: moved.mesh.positions.map((x, i) => (i % 3 === 0 ? x + 10 : x)) },
    };
    const pair = cut(join(boxPart(10, 10, 10), beside), normalize([0.2, 0.1, 1]), 7);
    expect(pair.open).toEqual([]);
    near(pair.properties!.area, 200 * Math.hypot(0.2, 0.1, 1), 1e-6);
  });

  test('an open mesh: its outline is told as open, nothing is capped', () => {
    const part = boxPart(10, 10, 10);
    // Without the two triangles of its front.
    const open = {
      ...part,
      mesh: {
        ...part.mesh,
        indices: Uint32Array.from([...part.mesh.indices.slice(0, 12), ...part.mesh.indices.slice(18)]),
      },
    };
    const found = cut(open, [0, 0, 1], 5);
    expect(found.loops).toEqual([]);
    expect(found.open).toHaveLength(1);
    expect(found.properties).toBeNull();
  });
});

describe('what is seen of a cut', () => {
  test('curves behind a mesh outline: lines, roundings and circles as such', () => {
    const steps = (c: PlaneCurve) => pointsAlong(c, Math.PI / 30);
    const rounded = profile([0, 0], [40, 0], arc([40, 10], 10, -Q, Q), [0, 20]).flatMap((c) =>
      steps(c).slice(0, -1),
    );
    const found = curvesOfLoop(rounded, 0.01);
    expect(found.map((c) => c.shape).sort()).toEqual(['arc', 'line', 'line', 'line']);
    const round = found.find((c) => c.shape === 'arc')!;
    expect(round).toMatchObject({ radius: expect.closeTo(10, 6) });
    near(curveLength(round), 10 * Math.PI, 1e-6);
    const hole = curvesOfLoop(steps(reverseCurve(circle([3, 4], 5))).slice(0, -1), 0.01);
    expect(hole).toHaveLength(1);
    near(propertiesOfCurves([[circle([3, 4], 6)], hole])!.area, Math.PI * 11, 1e-6);
  });

  test('what to keep whole: by name, by the number of a standard, by shape, and not what only looks like it', () => {
    const plain = boxPart(10, 20, 30);
    expect(wholeReason('Hex bolt M8', plain)).toContain('bolt');
    expect(wholeReason('DriveShaft_2', plain)).toContain('shaft');
    expect(wholeReason('30-204 ISO 4762 - M6', plain)).toContain('4762');
    for (const name of ['Boltless frame', 'Pinion', 'Keyboard', 'Housing'])
      expect(wholeReason(name, plain)).toBeNull();
    expect(wholeReason('Item 7', spherePart(4))).toBe('a ball by its shape');
    expect(wholeReason('Item 8', cylinderPart(5, 40))).toBe('a shaft or pin by its shape');
    expect(wholeReason('Item 9', cylinderPart(20, 40))).toBeNull();
  });

  test('kept whole: what a plane passes through is seen, what lies before it goes, by each combination', () => {
    const bolt = placed(cylinderPart(2, 10));
    const at = (constant: number): CutPlane => ({ normal: [1, 0, 0], constant });
    expect(isLeftWhole(bolt, [at(0)], 'any')).toBe(true);
    expect(isLeftWhole(bolt, [at(5)], 'any')).toBe(true);
    expect(isLeftWhole(bolt, [at(-2.001)], 'any')).toBe(false);
    expect(isLeftWhole(bolt, [at(-5), at(5)], 'any')).toBe(false);
    expect(isLeftWhole(bolt, [at(-5), at(5)], 'all')).toBe(true);
  });

  test('of a cut the corner, the outline and the face are picked at their pixels; nothing beside it', () => {
    const plane: CutPlane = { normal: [0, 0, 1], constant: 15 };
    const [cut] = cutComponents([placed(boxPart(40, 20, 30))], plane);
    const curves = cut.loops.flatMap((l) => curvesOfLoop(l, 0));
    const camera: ViewCamera = {
      projection: 'perspective',
      target: [20, 10, 15],
      orientation: lookFrom(normalize([0.3, -0.5, 1]), [0, 0, 1]),
      height: 60,
      lens: 0.6,
    };
    const pane = { width: 800, height: 600 };
    const pick = (p: Vec3) => {
      const s = project(camera, pane, p);
      return pickCut(
        [{ component: 3, loops: cut.loops, box: [-1e9, -1e9, 1e9, 1e9], curves: () => curves }],
        plane,
        camera,
        pane,
        s.x,
        s.y,
      );
    };
    expect(pick([12, 8, 15])).toMatchObject({
      kind: 'cap',
      component: 3,
      point: [expect.closeTo(12, 6), expect.closeTo(8, 6), expect.closeTo(15, 6)],
    });
    expect(pick([20, 0, 15])).toMatchObject({
      kind: 'outline',
      point: [expect.closeTo(20, 3), expect.closeTo(0, 6), expect.closeTo(15, 6)],
    });
    expect(pick([40, 20, 15])).toMatchObject({
      kind: 'corner',
      point: [expect.closeTo(40, 6), expect.closeTo(20, 6), expect.closeTo(15, 6)],
    });
    expect(pick([-10, 8, 15])).toBeNull();
    // The axes of the drawing: Y is up in a level cut, and it is seen from the removed side.
    expect(planeFrame(plane)).toMatchObject({ u: [1, 0, 0], v: [0, 1, 0] });
    expect(isWithinLoops([12, 8], cut.loops)).toBe(true);
    expect(fromPlane(planeFrame(plane), [12, 8])).toEqual([12, 8, 15]);
  });

  test('the drawing as SVG: millimetres of paper, a group for each component with names of their own, arcs as arcs', () => {
    const layer = (name: string) => ({
      name,
      colour: [0.5, 0.5, 0.5] as const,
      hatch: HATCHES[1],
      thickness: 9,
      open: [],
      loops: [
        profile([0, 0], [40, 0], arc([40, 10], 10, -Q, Q), [0, 20]),
        [reverseCurve(circle([40, 10], 4))],
      ],
    });
    const svg = writeCutSvg([layer('Bolt <M8>'), { ...layer('Bolt <M8>'), thickness: 0.4 }], {
      title: 'A & B',
      scale: 2,
      hatched: true,
    });
    // Thin cuts are filled instead of hatched (ISO 128-3).
    expect(svg.match(/fill="(url\(#hatch0\)|#000)"/g)).toEqual(['fill="url(#hatch0)"', 'fill="#000"']);
    expect(svg).toContain('width="110mm" height="50mm"');
    expect(svg).toContain('<title>A &amp; B</title>');
    expect(svg).toContain('Scale 2:1, all curves exact');
    // One arc of half a turn, and the circle in two halves, of twice the radius on paper.
    expect(svg.match(/A20 20 0 0 0/g)).toHaveLength(2);
    expect(svg.match(/A8 8 0 0 1/g)).toHaveLength(4);
    expect(layerNames([{ name: 'Bolt <M8>' }, { name: 'Bolt <M8>' }, { name: '' }])).toEqual([
      'Bolt_M8_',
      'Bolt_M8__2',
      'component',
    ]);
  });
});
