import fc from 'fast-check';
import { frameOrientation, FRAMES, pipOrientation, TRIMETRIC } from '../camera/directions.ts';
import type { PartGeometry } from '../geometry/part-geometry.ts';
import { IDENTITY, type Mat4 } from '../math/mat4.ts';
import { rotate } from '../math/quaternion.ts';
import { addScaled, dot, normalize, scale, subtract, type Vec3 } from '../math/vec3.ts';
import { buildPartBvh } from '../picking/pick-scene.ts';
import { fromPlane, planeFrame } from '../section/mesh/cap-of-loops.ts';
import { curvesOfLoop } from '../section/curves/curves-of-loop.ts';
import { cutComponents } from '../section/mesh/cut-components.ts';
import { HATCHES } from '../section/hatch-patterns.ts';
import type { CutPlane } from '../section/mesh/slice-mesh.ts';
import { boxPart } from '../testing/box-part.ts';
import { cylinderPart, spherePart, turnedPart } from '../testing/round-parts.ts';
import type { DrawnCurve, LineKind } from './drawing.ts';
import { hiddenLineDrawing } from './hidden-lines.ts';
import { writeSvg } from './write-svg.ts';

const at = (x: number, y: number, z: number): Mat4 => [...IDENTITY.slice(0, 12), x, y, z, 1];
const trimetric = frameOrientation(TRIMETRIC, FRAMES.z);
const isometric = pipOrientation([1, 1, 1], FRAMES.z);
const front = pipOrientation([0, 1, 0], FRAMES.z);
const draw = (parts: [PartGeometry, Mat4][], orientation = trimetric, hidden = true) =>
  hiddenLineDrawing(
    parts.map(([geometry, placement]) => ({ geometry, placement })),
    orientation,
    { hidden, smooth: false },
  );
const count = (curves: readonly DrawnCurve[], kind: LineKind) => curves.filter((c) => c.kind === kind).length;
const length = (curves: readonly DrawnCurve[], kind: LineKind) =>
  curves
    .filter((c) => c.kind === kind)
    .reduce(
      (sum, c) =>
        sum +
        (c.shape === 'line'
          ? Math.hypot(c.to[0] - c.from[0], c.to[1] - c.from[1])
          : c.shape === 'arc'
            ? c.radius * (c.to - c.from)
            : 0),
      0,
    );

test('a cube in a trimetric view shows 9 edges and hides 3', () => {
  const { curves } = draw([[boxPart(10, 10, 10), IDENTITY]]);
  expect([count(curves, 'visible'), count(curves, 'hidden')]).toEqual([9, 3]);
  expect(curves.every((c) => c.shape === 'line')).toBe(true);
});

test('in an isometric view no dash of a cube runs over a visible line', () => {
  const { curves } = draw([[boxPart(10, 10, 10), IDENTITY]], isometric);
  expect([count(curves, 'visible'), count(curves, 'hidden')]).toEqual([9, 3]);
  expect(length(curves, 'visible')).toBeCloseTo(90 * Math.sqrt(2 / 3), 6);
  // Front and back corner fall on one point; the hidden edges go to the other three corners of the hexagon.
  const lines = curves.flatMap((c) => (c.shape === 'line' ? [c] : []));
  for (const hidden of lines.filter((c) => c.kind === 'hidden'))
    for (const seen of lines.filter((c) => c.kind === 'visible'))
      for (const t of [0.25, 0.5, 0.75]) {
        const p = [0, 1].map((k) => hidden.from[k] + t * (hidden.to[k] - hidden.from[k]));
        const off = Math.abs(
          (p[0] - seen.from[0]) * (seen.to[1] - seen.from[1]) -
            (p[1] - seen.from[1]) * (seen.to[0] - seen.from[0]),
        );
        const beyond =
          (p[0] - seen.from[0]) * (p[0] - seen.to[0]) + (p[1] - seen.from[1]) * (p[1] - seen.to[1]);
        expect(off > 0.1 || beyond > 0.1).toBe(true);
      }
});

test('of two edges that lie behind each other only the visible one is drawn', () => {
  const { curves } = draw([[boxPart(10, 10, 10), IDENTITY]], front);
  expect([count(curves, 'visible'), count(curves, 'hidden')]).toEqual([4, 0]);
});

test('a cylinder from the front is a rectangle, from the top a circle', () => {
  const part = cylinderPart(5, 20);
  const side = draw([[part, IDENTITY]], front);
  expect(side.curves).toHaveLength(4);
  expect(side.curves.every((c) => c.shape === 'line' && c.kind === 'visible')).toBe(true);
  expect(length(side.curves, 'visible')).toBeCloseTo(2 * 10 + 2 * 20, 6);
  expect(side.box).toEqual({
    minX: expect.closeTo(-5, 9),
    maxX: expect.closeTo(5, 9),
    minY: expect.closeTo(0, 9),
    maxY: expect.closeTo(20, 9),
  });
  const top = draw([[part, IDENTITY]], pipOrientation([0, 0, 1], FRAMES.z));
  const circle = top.curves.filter((c) => c.shape === 'arc');
  expect(circle).toHaveLength(1);
  expect(circle[0]).toMatchObject({ radius: 5, kind: 'visible' });
  expect(length(top.curves, 'visible')).toBeCloseTo(10 * Math.PI, 6);
});

test('the outline of a sphere is its circle, of a turned cylinder its two generators, on the exact surface', () => {
  const sphere = draw([[spherePart(8), IDENTITY]], trimetric, false);
  const points = sphere.curves.flatMap((c) =>
    c.shape === 'line' ? [c.from, c.to] : c.shape === 'polyline' ? c.points : [],
  );
  expect(points.length).toBeGreaterThan(20);
  for (const [x, y] of points) expect(Math.hypot(x, y)).toBeCloseTo(8, 6);
  // Closed form: generators at ± the radius, of the projected length h·cos(elevation).
  const cylinder = draw([[cylinderPart(5, 20), IDENTITY]], trimetric, false);
  const generators = cylinder.curves.filter(
    (c) => c.shape === 'line' && Math.abs(c.to[1] - c.from[1]) > 10,
  ) as {
    from: readonly [number, number];
    to: readonly [number, number];
  }[];
  expect(generators.map((g) => g.from[0]).sort((a, b) => a - b)).toEqual([
    expect.closeTo(-5, 6),
    expect.closeTo(5, 6),
  ]);
});

test('a cube behind a cube is hidden where the first stands before it', () => {
  const far = draw(
    [
      [boxPart(10, 10, 10), IDENTITY],
      [boxPart(4, 4, 4), at(3, 20, 3)],
    ],
    front,
  );
  // The small one lies wholly behind: its square is dashed, once.
  expect(length(far.curves, 'hidden')).toBeCloseTo(16, 6);
  expect(length(far.curves, 'visible')).toBeCloseTo(40, 6);
  const half = draw(
    [
      [boxPart(10, 10, 10), IDENTITY],
      [boxPart(10, 4, 4), at(5, 20, 3)],
    ],
    front,
  );
  // Half of it sticks out to the right.
  expect(length(half.curves, 'visible')).toBeCloseTo(40 + 5 + 5 + 4, 6);
  expect(length(half.curves, 'hidden')).toBeCloseTo(5 + 5 + 4, 6);
  const off = draw(
    [
      [boxPart(10, 10, 10), IDENTITY],
      [boxPart(4, 4, 4), at(3, 20, 3)],
    ],
    front,
    false,
  );
  expect(count(off.curves, 'hidden')).toBe(0);
});

test('a mirrored cube and one far from the origin are drawn the same', () => {
  const mirrored: Mat4 = [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  const { curves } = draw([[boxPart(10, 10, 10), mirrored]]);
  expect([count(curves, 'visible'), count(curves, 'hidden')]).toEqual([9, 3]);
  const shifted = draw([[boxPart(10, 10, 10), at(1000, -2000, 300)]]);
  expect([count(shifted.curves, 'visible'), count(shifted.curves, 'hidden')]).toEqual([9, 3]);
});

describe('with a section', () => {
  const box = boxPart(40, 20, 30);
  const plane = (normal: Vec3, constant: number): CutPlane => ({ normal, constant, within: 1e-5 });
  const cutDrawing = (
    part: PartGeometry,
    planes: CutPlane[],
    orientation = trimetric,
    { combine = 'any' as 'any' | 'all', spacing = 0, whole = [] as [PartGeometry, Mat4][] } = {},
  ) => {
    const input = { geometry: part, bvh: buildPartBvh(part), placement: IDENTITY, stored: IDENTITY };
    const caps = planes.flatMap((p) =>
      cutComponents(
        [input],
        p,
        planes.filter((o) => o !== p),
        combine,
      ).map(({ loops }) => ({
        frame: planeFrame(p),
        loops: loops.map((l) => curvesOfLoop(l, 0.01)),
        open: [],
        hatch: HATCHES[0],
        spacing,
      })),
    );
    return hiddenLineDrawing(
      [
        { geometry: part, placement: IDENTITY },
        ...whole.map(([geometry, placement]) => ({ geometry, placement, whole: true })),
      ],
      orientation,
      { hidden: true, smooth: false, section: { planes, combine, caps } },
    );
  };
  const same = (a: readonly DrawnCurve[], b: readonly DrawnCurve[]) => {
    for (const kind of ['visible', 'hidden'] as const)
      expect(length(a, kind)).toBeCloseTo(length(b, kind), 3);
  };

  test('a box that is cut is drawn as the box that is left, from whichever side', () => {
    for (const orientation of [trimetric, isometric, front, pipOrientation([-1, 0, 1], FRAMES.z)]) {
      same(
        cutDrawing(box, [plane([0, 0, 1], 18)], orientation).curves,
        draw([[boxPart(40, 20, 18), IDENTITY]], orientation).curves,
      );
      same(
        cutDrawing(box, [plane([1, 0, 0], 25), plane([0, 0, -1], -12)], orientation).curves,
        draw([[boxPart(25, 20, 18), at(0, 0, 12)]], orientation).curves,
      );
    }
  });

  test('a quarter taken out of a block: an L from above, with the corner’s edges', () => {
    const { curves } = cutDrawing(
      box,
      [plane([1, 0, 0], 25), plane([0, 0, 1], 10)],
      pipOrientation([0, 1, 0], FRAMES.z),
      {
        combine: 'all',
      },
    );
    // Seen from the front (along Y): the outline of the L is as long as the block's; nothing is hidden.
    expect(length(curves, 'visible')).toBeCloseTo(2 * (40 + 30), 6);
    expect(count(curves, 'hidden')).toBe(0);
    const above = cutDrawing(
      box,
      [plane([1, 0, 0], 25), plane([0, 0, 1], 10)],
      pipOrientation([0, 0, 1], FRAMES.z),
      { combine: 'all' },
    );
    expect(length(above.curves, 'visible')).toBeCloseTo(2 * (40 + 20) + 20, 6);
  });

  test('hatching fills the walls and nothing else, at 45° and at its distance; what stands before it hides it', () => {
    const tube = turnedPart(
      [
        [8, 0],
        [10, 0],
        [10, 50],
        [8, 50],
      ],
      256,
    );
    const half = [plane([0, 1, 0], 0)];
    const back = pipOrientation([0, -1, 0], FRAMES.z);
    const facing = [front, back].find((o) => rotate(o, [0, 0, 1])[1] > 0.5)!;
    const { curves } = cutDrawing(tube, half, facing, { spacing: 0.5 });
    const hatches = curves.flatMap((c) => (c.kind === 'hatch' && c.shape === 'line' ? [c] : []));
    for (const { from, to } of hatches) {
      expect(Math.abs(Math.abs(to[0] - from[0]) - Math.abs(to[1] - from[1]))).toBeLessThan(1e-6);
      for (const [x, y] of [from, to]) {
        expect(Math.abs(Math.abs(x) - 9)).toBeLessThan(1.01);
        expect(Math.abs(y - 25)).toBeLessThan(25.01);
      }
    }
    // Lines 0.5 apart fill two walls of 2 × 50: length × distance is the area.
    expect(length(hatches, 'hatch') * 0.5).toBeCloseTo(200, -1);
    // The outlines of both walls, from end to end.
    const upright = curves.flatMap((c) =>
      c.kind === 'visible' && c.shape === 'line' && Math.abs(c.to[0] - c.from[0]) < 1e-3
        ? [[c.from[0], Math.abs(c.to[1] - c.from[1])]]
        : [],
    );
    expect(upright.sort((a, b) => a[0] - b[0])).toEqual(
      [-10, -8, 8, 10].map((x) => [expect.closeTo(x, 3), expect.closeTo(50, 3)]),
    );
    const behind = cutDrawing(tube, half, facing, {
      spacing: 0.5,
      whole: [[boxPart(4, 4, 20), at(7, 3, 10)]],
    });
    expect(length(behind.curves, 'hatch') * 0.5).toBeCloseTo(200 - 2 * 20, -1);
    // The drawing with the section says what each line is, on paper and as layers.
    expect(writeSvg(behind, { scale: 1, title: 'Tube' })).toMatch(/<g id="HATCH" stroke-width="0.25">/);
  });

  test('a section never adds to what a convex solid shows: each side of a plane is drawn as a solid of its own', () => {
    const unit = fc.double({ min: -1, max: 1, noNaN: true });
    fc.assert(
      fc.property(
        fc.tuple(unit, unit, unit).filter((n) => Math.hypot(...n) > 0.2),
        fc.double({ min: 0.25, max: 0.75, noNaN: true }),
        (n, share) => {
          const normal = normalize(n as Vec3);
          const reach = [0, 40].flatMap((x) =>
            [0, 20].flatMap((y) => [0, 30].map((z) => dot([x, y, z], normal))),
          );
          const constant = Math.min(...reach) + share * (Math.max(...reach) - Math.min(...reach));
          const [left, right] = [
            cutDrawing(box, [plane(normal, constant)]),
            cutDrawing(box, [plane(scale(normal, -1), -constant)]),
          ];
          const whole = draw([[box, IDENTITY]]);
          // Every edge of the box lies in one of the halves; each half has the cut's outline besides.
          const outline =
            length(left.curves, 'visible') +
            length(left.curves, 'hidden') +
            length(right.curves, 'visible') +
            length(right.curves, 'hidden') -
            length(whole.curves, 'visible') -
            length(whole.curves, 'hidden');
          const input = { geometry: box, bvh: buildPartBvh(box), placement: IDENTITY, stored: IDENTITY };
          const back = rotate(trimetric, [0, 0, 1]);
          const [cut] = cutComponents([input], plane(normal, constant));
          const ends = cut.loops[0].map((p) => fromPlane(planeFrame(plane(normal, constant)), p));
          const seen = ends.reduce((sum, p, i) => {
            const d = subtract(ends[(i + 1) % ends.length], p);
            return sum + Math.hypot(...addScaled(d, back, -dot(d, back)));
          }, 0);
          expect(outline / (2 * seen)).toBeCloseTo(1, 3);
        },
      ),
      { numRuns: 40 },
    );
  });
});

test('seen square on, nothing that is edge on hides a line: boxes that are turned, a disc', () => {
  // A quaternion leaves 1e-16 of a square view, single precision 1e-7 of what is turned.
  const turn = (angle: number): Mat4 => [
    Math.cos(angle),
    Math.sin(angle),
    0,
    0,
    -Math.sin(angle),
    Math.cos(angle),
    0,
    0,
    0,
    0,
    1,
    0,
    0,
    0,
    0,
    1,
  ];
  const top = pipOrientation([0, 0, 1], FRAMES.z);
  for (const angle of [0, 0.3, 1, 2.2]) {
    const { curves } = draw([[boxPart(30, 20, 10), turn(angle)]], top);
    expect(length(curves, 'visible')).toBeCloseTo(100, 4);
    expect(length(curves, 'hidden')).toBe(0);
  }
  expect(length(draw([[boxPart(30, 20, 10), IDENTITY]], front).curves, 'visible')).toBeCloseTo(80, 6);
  expect(length(draw([[cylinderPart(8, 20), IDENTITY]], front).curves, 'visible')).toBeCloseTo(72, 1);
});
