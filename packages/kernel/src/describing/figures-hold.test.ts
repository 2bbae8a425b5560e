import fc from 'fast-check';
import { withinOf, type PartGeometry } from '@bathyscope/core/geometry';
import { IDENTITY, scale, type Vec3 } from '@bathyscope/core/math';
import { buildPartBvh } from '@bathyscope/core/picking';
import { cutComponents, propertiesOfCurves, sectionProperties } from '@bathyscope/core/section';
import { cuttingFrame } from '../sections/cutting-frame.ts';
import { describePart } from './describe-part.ts';
import type { LoadedKernel, Occt } from '../occt/load.ts';
import { sectionShape } from '../sections/section-shape.ts';
import { madeSolids, type MadeSolids, type Segment } from '../testing/made-solids.ts';
import { testKernel } from '../testing/test-kernel.ts';

/*
 * Figures of solids that nobody chose: random profiles of lines, arcs and splines, with round or elliptic
 * holes, extruded or revolved, turned, mirrored, scaled and far away. Against quadrature of the test's own
 * (Green's theorem along the profile, Pappus), against the same solid with all its faces stored as B-splines,
 * against the sum of its pieces, and against its mesh. No bound is ever exceeded.
 */

let kernel: LoadedKernel;
let oc: Occt;
let made: MadeSolids;
beforeAll(async () => {
  kernel = await testKernel();
  ({ oc } = kernel);
  made = madeSolids(oc);
});

/** How many bounds were looked at, and how many were exceeded. */
const bounds = { seen: 0, exceeded: [] as string[] };
const holds = (what: string, found: number, truth: number, within: number): void => {
  bounds.seen++;
  if (!(Math.abs(found - truth) <= within))
    bounds.exceeded.push(`${what}: ${found} for ${truth}, within ${within}`);
};
afterAll(() => {
  process.stdout.write(`Of ${bounds.seen} bounds ${bounds.exceeded.length} were exceeded.\n`);
});

type Point = readonly [number, number];
/** Runs of each property: every one makes, meshes and cuts several solids. */
const RUNS = 6;

/** To a thousandth: nothing is learnt from what differs by a power of ten to the minus three hundred. */
const real = (min: number, max: number) =>
  fc.integer({ min: Math.ceil(1000 * min), max: Math.floor(1000 * max) }).map((x) => x / 1000);

/** A side from one corner to the next: straight, an arc that bulges, or a spline that swings. */
function side(kind: 'line' | 'arc' | 'spline', [px, py]: Point, [qx, qy]: Point, bulge: number): Segment {
  const [mx, my] = [(px + qx) / 2, (py + qy) / 2];
  const [nx, ny] = [qy - py, px - qx];
  if (kind === 'spline')
    return {
      kind,
      degree: 3,
      poles: [
        [px, py],
        [px + (qx - px) / 4 + bulge * nx, py + (qy - py) / 4 + bulge * ny],
        [mx - (bulge / 2) * nx, my - (bulge / 2) * ny],
        [qx - (qx - px) / 4 + bulge * nx, qy - (qy - py) / 4 + bulge * ny],
        [qx, qy],
      ],
    };
  if (kind === 'line' || Math.abs(bulge) < 0.02) return { kind: 'line', from: [px, py], to: [qx, qy] };
  // The circle through both ends whose arc rises by the bulge over the chord.
  const half = Math.hypot(qx - px, qy - py) / 2;
  const rise = 2 * Math.abs(bulge) * half;
  const radius = (half * half + rise * rise) / (2 * rise);
  const inwards = (Math.sign(bulge) * (radius - rise)) / (2 * half);
  const centre: Point = [mx - inwards * nx, my - inwards * ny];
  const [from, to] = [
    [px, py],
    [qx, qy],
  ].map(([x, y]) => Math.atan2(y - centre[1], x - centre[0]));
  const turn = to - from;
  const short = turn - 2 * Math.PI * Math.round(turn / (2 * Math.PI));
  // The kernel's arcs run anticlockwise: one that runs back has its second axis turned over.
  return short > 0
    ? { kind: 'conic', centre, a: [radius, 0], b: [0, radius], from, to: from + short }
    : { kind: 'conic', centre, a: [radius, 0], b: [0, -radius], from: -from, to: -from - short };
}

/** A star-shaped outline round a point: corners at random distances, sides of any kind. */
const outline = (x: number, y: number) =>
  fc
    .array(
      fc.record({
        reach: real(14, 22),
        kind: fc.constantFrom('line' as const, 'arc' as const, 'spline' as const),
        bulge: real(-0.12, 0.25),
      }),
      {
        minLength: 4,
        maxLength: 7,
      },
    )
    .map((corners): Segment[] => {
      const at = corners.map(({ reach }, i): Point => {
        const t = (2 * Math.PI * i) / corners.length;
        return [x + reach * Math.cos(t), y + reach * Math.sin(t)];
      });
      return corners.map(({ kind, bulge }, i) => side(kind, at[i], at[(i + 1) % at.length], bulge));
    });

const hole = (x: number, y: number) =>
  fc
    .record({ a: real(2, 6), b: real(2, 6), round: fc.boolean() })
    .map(({ a, b, round }): Segment[] => [
      { kind: 'conic', centre: [x, y], a: [a, 0], b: [0, round ? a : b], from: 0, to: 2 * Math.PI },
    ]);

/** Place and slope along a segment, over [0, 1] in equal smooth pieces. */
function along(s: Segment): { pieces: number; at: (t: number) => readonly [number, number, number, number] } {
  if (s.kind === 'line')
    return {
      pieces: 1,
      at: (t) => [
        s.from[0] + t * (s.to[0] - s.from[0]),
        s.from[1] + t * (s.to[1] - s.from[1]),
        s.to[0] - s.from[0],
        s.to[1] - s.from[1],
      ],
    };
  if (s.kind === 'conic') {
    const run = s.to - s.from;
    return {
      pieces: 8,
      at: (t) => {
        const [c, d] = [Math.cos(s.from + t * run), Math.sin(s.from + t * run)];
        return [
          s.centre[0] + c * s.a[0] + d * s.b[0],
          s.centre[1] + c * s.a[1] + d * s.b[1],
          run * (c * s.b[0] - d * s.a[0]),
          run * (c * s.b[1] - d * s.a[1]),
        ];
      },
    };
  }
  // Cubic with five poles: two spans of clamped even knots, by de Boor.
  const knot = (i: number) => Math.min(2, Math.max(0, i - 3));
  const point = (poles: readonly Point[], degree: number, span: number, t: number): Point => {
    const d = Array.from({ length: degree + 1 }, (_, j): [number, number] => [...poles[j + span - degree]]);
    const shift = 3 - degree;
    for (let r = 1; r <= degree; r++)
      for (let j = degree; j >= r; j--) {
        const [low, high] = [knot(j + span - degree + shift), knot(j + 1 + span - r + shift)];
        const a = (t - low) / (high - low);
        d[j] = [(1 - a) * d[j - 1][0] + a * d[j][0], (1 - a) * d[j - 1][1] + a * d[j][1]];
      }
    return d[degree];
  };
  const slopes = s.poles.slice(1).map((p, i): Point => {
    const by = 3 / (knot(i + 4) - knot(i + 1));
    return [by * (p[0] - s.poles[i][0]), by * (p[1] - s.poles[i][1])];
  });
  return {
    pieces: 2,
    at: (t) => {
      const u = 2 * t;
      const span = u < 1 ? 3 : 4;
      const [x, y] = point(s.poles, 3, span, u);
      const [dx, dy] = point(slopes, 2, span - 1, u);
      return [x, y, 2 * dx, 2 * dy];
    },
  };
}

/** Gauss–Legendre, five points (Abramowitz & Stegun, table 25.4). */
const GAUSS = [
  [0, 128 / 225],
  [0.5384693101056831, 0.47862867049936647],
  [-0.5384693101056831, 0.47862867049936647],
  [0.906179845938664, 0.23692688505618908],
  [-0.906179845938664, 0.23692688505618908],
] as const;

/** ∮ f dy round an outline. */
function round(segments: readonly Segment[], f: (x: number, y: number) => number): number {
  let sum = 0;
  for (const s of segments) {
    const { pieces, at } = along(s);
    const parts = pieces * 24;
    for (let i = 0; i < parts; i++)
      for (const [node, weight] of GAUSS) {
        const [x, y, , dy] = at((i + (1 + node) / 2) / parts);
        sum += (weight / 2 / parts) * f(x, y) * dy;
      }
  }
  return sum;
}

const areaOf = (outlines: readonly (readonly Segment[])[]) =>
  outlines.reduce((sum, o, i) => sum + (i ? -1 : 1) * Math.abs(round(o, (x) => x)), 0);
const firstOf = (outlines: readonly (readonly Segment[])[]) =>
  outlines.reduce((sum, o, i) => sum + (i ? -1 : 1) * Math.abs(round(o, (x) => (x * x) / 2)), 0);

const COARSE = { chord: 0.004, angle: 0.4 };
const boundOf = ({ mass }: PartGeometry): number =>
  Math.max(mass!.volumeErrorEstimate, withinOf(mass!.accuracy)) * mass!.volume;
/**
 * Relative: what rounding leaves of quadratures of thousands of terms, and of parameters that the kernel is
 * given in other words.
 */
const ROUNDING = 2e-12;

/** Figures of a solid against what its volume is, its spline twin, its mesh, and its two pieces. */
function expectFigures(shape: Occt, truth: number, normal: Vec3, constant: number): void {
  const part = describePart(oc, shape, COARSE);
  const twin = describePart(oc, made.asSplines(shape), COARSE);
  const [v, w] = [part.mass!.volume, twin.mass!.volume];
  holds('volume', v, truth, boundOf(part) + ROUNDING * truth);
  holds('volume of the twin', w, truth, boundOf(twin) + 100 * ROUNDING * truth);
  expect(part.mass!.accuracy.kind).not.toBe('estimate');
  expect(Math.abs(v / truth - 1)).toBeLessThan(1e-9);
  expect(Math.abs(part.area / twin.area - 1)).toBeLessThan(1e-8);
  const size = Math.cbrt(truth);
  part.mass!.centreOfGravity.forEach((x, k) =>
    expect(Math.abs(x - twin.mass!.centreOfGravity[k])).toBeLessThan(1e-8 * size),
  );
  part.mass!.inertia.forEach((row, i) =>
    row.forEach((x, j) => expect(Math.abs(x - twin.mass!.inertia[i][j])).toBeLessThan(1e-8 * size ** 5)),
  );
  for (let k = 0; k < 3; k++)
    for (const end of ['min', 'max'] as const)
      holds(
        'box',
        part.box[end][k],
        twin.box[end][k],
        (part.boxWithin ?? 0) + (twin.boxWithin ?? 0) + 1e-7 * size,
      );
  // Both pieces make the whole.
  const middle = scale(normal, constant);
  const far = 400;
  const half = (sign: number) => {
    const plane = new oc.gp_Pln_3(new oc.gp_Pnt_3(...middle), new oc.gp_Dir_4(...normal));
    const face = new oc.BRepBuilderAPI_MakeFace_9(plane, -far, far, -far, far).Face();
    return made.minus(
      shape,
      new oc.BRepPrimAPI_MakePrism_1(
        face,
        new oc.gp_Vec_4(sign * far * normal[0], sign * far * normal[1], sign * far * normal[2]),
        false,
        true,
      ).Shape(),
    );
  };
  const pieces = [half(1), half(-1)].map((p) => describePart(oc, p, COARSE)).filter((p) => p.mass);
  const sum = pieces.reduce((all, p) => all + p.mass!.volume, 0);
  // The kernel's own cuts are good to 1e-7 mm: what that makes of the cut faces is told by their slits, or is
  // too small to be.
  holds(
    'sum of the pieces',
    sum,
    v,
    pieces.reduce((all, p) => all + boundOf(p), boundOf(part)) + 1e-6 * size * size,
  );
  expectCut(shape, part, normal, constant);
}

/** The exact section is within its tolerance of the twin's, and the mesh within its chord of both. */
function expectCut(shape: Occt, part: PartGeometry, normal: Vec3, constant: number): void {
  const cut = (s: Occt) => sectionShape(kernel, s, cuttingFrame({ normal, constant }, IDENTITY));
  const [exact, twin] = [cut(shape), cut(made.asSplines(shape))];
  expect([exact.open, twin.open]).toEqual([0, 0]);
  const [one, other] = [exact, twin].map((e) => propertiesOfCurves(e.loops));
  const [mesh] = cutComponents(
    [{ geometry: part, bvh: buildPartBvh(part), placement: IDENTITY, stored: IDENTITY }],
    {
      normal,
      constant,
      within: 1e-6,
    },
  );
  const meshed = mesh && sectionProperties(mesh.loops);
  if (!one || !other || !meshed) return;
  holds('area of a cut', one.area, other.area, (exact.tolerance + twin.tolerance + 1e-9) * one.perimeter);
  holds(
    'area of a cut of the mesh',
    meshed.area,
    one.area,
    part.chordTolerance * Math.max(mesh.lean.most, exact.lean) * 1.5 * one.perimeter +
      exact.tolerance * one.perimeter,
  );
}

const way = fc.tuple(real(-1, 1), real(-1, 1), real(0.3, 1)).map(([x, y, z]): Vec3 => {
  const l = Math.hypot(x, y, z);
  return [x / l, y / l, z / l];
});

test('extruded profiles, straight and aslant', () => {
  fc.assert(
    fc.property(
      outline(3, -2),
      hole(3, -2),
      real(5, 30),
      real(-8, 8),
      way,
      (outer, inner, height, lean, normal) => {
        const outlines = [outer, inner];
        const shape = made.extruded([lean, -lean / 2, height], ...outlines);
        expectFigures(
          shape,
          areaOf(outlines) * height,
          normal,
          normal[0] * 3 - normal[1] * 2 + (normal[2] * height) / 2,
        );
      },
    ),
    { numRuns: RUNS, endOnFailure: true, includeErrorInReport: true },
  );
});

test('revolved profiles, whole turns and less', () => {
  fc.assert(
    fc.property(
      outline(60, 5),
      hole(60, 5),
      fc.constantFrom(2 * Math.PI, 4, 1.2),
      way,
      (outer, inner, angle, normal) => {
        const outlines = [outer, inner];
        const shape = made.revolved(angle, ...outlines);
        expectFigures(shape, angle * firstOf(outlines), normal, normal[2] * 5 + normal[0] * 20);
      },
    ),
    { numRuns: RUNS, endOnFailure: true, includeErrorInReport: true },
  );
});

test('turned, mirrored, scaled and a kilometre away: the same figures', () => {
  fc.assert(
    fc.property(
      outline(3, -2),
      hole(3, -2),
      real(5, 30),
      way,
      real(0, 3),
      real(0.3, 4),
      (outer, inner, height, axis, angle, factor) => {
        const outlines = [outer, inner];
        const truth = areaOf(outlines) * height;
        const shape = made.extruded([0, 0, height], ...outlines);
        const ways: [string, Occt, number][] = [
          ['turned', made.turned(shape, axis, angle), 1],
          ['mirrored', made.mirrored(shape, axis), 1],
          ['scaled', made.scaled(shape, factor), factor ** 3],
          ['far away', made.moved(shape, [1e6, -5e5, 2e5]), 1],
        ];
        for (const [how, placed, times] of ways) {
          const part = describePart(oc, placed, COARSE);
          // A coordinate of 1e6 mm is known to 1e-10 mm.
          holds(
            `volume ${how}`,
            part.mass!.volume,
            truth * times,
            boundOf(part) + (how === 'far away' ? 1e-9 : ROUNDING) * truth * times,
          );
        }
      },
    ),
    { numRuns: RUNS, endOnFailure: true, includeErrorInReport: true },
  );
});

test('of all these bounds none was exceeded', () => {
  expect(bounds.seen).toBeGreaterThan(100);
  expect(bounds.exceeded).toEqual([]);
});
