import fc from 'fast-check';
import { patternOf, recogniseHoles } from '@bathyscope/core/holes';
import { describePart } from './describe-part.ts';
import type { LoadedKernel, Occt } from '../occt/load.ts';
import { madeSolids, type MadeSolids } from '../testing/made-solids.ts';
import { holesEachWay, roundRims, WAYS, type ExpectedHole } from '../testing/holes-each-way.ts';
import { testKernel } from '../testing/test-kernel.ts';

/*
 * Holes of solids made here, each as it is, written as B-splines, a thousandth of the
 * size, and turned in space.
 */
let kernel: LoadedKernel;
let made: MadeSolids;
beforeAll(async () => {
  kernel = await testKernel();
  made = madeSolids(kernel.oc);
});

const like = (x: number) => expect.closeTo(x, 2);
const numbers = <T extends object>(o: T): T =>
  Object.fromEntries(Object.entries(o).map(([k, v]) => [k, typeof v === 'number' ? like(v) : v])) as T;

function expectHoles(make: () => Occt, wanted: ExpectedHole[]): void {
  const expected = wanted.map((w) => ({
    ...numbers(w),
    opensInto: w.opensInto ?? 0,
    steps: (w.steps ?? []).map((s) => expect.objectContaining(numbers(s))),
  }));
  const found = holesEachWay(kernel, made, make);
  expect(found).toEqual(found.map(({ how }) => ({ how, said: expected })));
}
const plate = () => made.box([-30, -30, 0], [30, 30, 40]);
const bore = (radius: number, from = -1, to = 41) => made.cylinder([0, 0, from], radius, to - from);

test('through, blind with a drill point, blind and flat', () => {
  const drill = (depth: number, r: number, x: number) =>
    made.plus(
      made.cylinder([x, 0, 40 - depth], r, depth + 1),
      made.cone(
        [x, 0, 40 - depth - r / Math.tan((59 * Math.PI) / 180)],
        0,
        r,
        r / Math.tan((59 * Math.PI) / 180),
      ),
    );
  expectHoles(
    () =>
      made.minus(
        plate(),
        made.cylinder([-20, 0, -1], 4, 50),
        drill(25, 3, 0),
        made.cylinder([20, 0, 30], 2, 11),
      ),
    [
      { diameter: 8, depth: 40, ends: 'through' },
      {
        diameter: 6,
        depth: 25,
        ends: 'blind',
        steps: [{ kind: 'drill point', angle: 118, depth: 3 / Math.tan((59 * Math.PI) / 180) }],
      },
      { diameter: 4, depth: 10, ends: 'blind' },
    ],
  );
});

test('counterbored, countersunk, both ends widened; a much wider bore is a bore of its own', () => {
  expectHoles(
    () => made.minus(plate(), bore(3.3), made.cylinder([0, 0, 33.6], 5.5, 10)),
    [
      {
        diameter: 6.6,
        depth: 40,
        ends: 'through',
        steps: [{ kind: 'counterbore', side: 'near', diameter: 11, depth: 6.4 }],
      },
    ],
  );
  expectHoles(
    () => made.minus(plate(), bore(3), made.cone([0, 0, 37], 3, 6, 3)),
    [
      {
        diameter: 6,
        depth: 40,
        ends: 'through',
        steps: [{ kind: 'countersink', side: 'near', diameter: 12, depth: 3, angle: 90 }],
      },
    ],
  );
  expectHoles(
    () => made.minus(plate(), bore(5), made.cylinder([0, 0, 30], 9, 11), made.cylinder([0, 0, -1], 8, 6)),
    [
      {
        diameter: 10,
        depth: 40,
        ends: 'through',
        steps: [
          { kind: 'counterbore', side: 'near', diameter: 18, depth: 10 },
          { kind: 'counterbore', side: 'far', diameter: 16, depth: 5 },
        ],
      },
    ],
  );
  expectHoles(
    () => made.minus(plate(), bore(4), made.cylinder([0, 0, 10], 20, 31)),
    [
      { diameter: 40, depth: 30, ends: 'blind' },
      { diameter: 8, depth: 10, ends: 'through', opensInto: 1 },
    ],
  );
});

test('rounded corners of a pocket and the ends of a slot are no holes', () => {
  const corner = (x: number, y: number) => made.cylinder([x, y, -1], 6, 13);
  const pocket = made.plus(
    made.box([-20, -8, -1], [20, 8, 12]),
    made.box([-14, -14, -1], [14, 14, 12]),
    corner(-14, -8),
    corner(14, -8),
    corner(-14, 8),
    corner(14, 8),
  );
  const slot = made.plus(
    made.box([-15, 24, -1], [15, 34, 12]),
    made.cylinder([-15, 29, -1], 5, 13),
    made.cylinder([15, 29, -1], 5, 13),
  );
  expectHoles(
    () =>
      made.minus(made.box([-40, -40, 0], [40, 40, 10]), pocket, slot, made.cylinder([-32, 29, -1], 3, 13)),
    [{ diameter: 6, depth: 10, ends: 'through' }],
  );
});

test('a bore with a keyway is a bore with a keyway; with six it is one too; a slit ring is a bore', () => {
  const key = (angle: number) => made.turned(made.box([0, -3, -1], [12.8, 3, 41]), [0, 0, 1], angle);
  expectHoles(
    () => made.minus(plate(), bore(10), key(0)),
    [
      {
        diameter: 20,
        depth: 40,
        ends: 'through',
        steps: [{ kind: 'keyway', width: 6, diameter: 22.8, depth: 40 }],
      },
    ],
  );
  expectHoles(
    () => made.minus(plate(), bore(10), ...[0, 1, 2, 3, 4, 5].map((i) => key((i * Math.PI) / 3))),
    [
      {
        diameter: 20,
        depth: 40,
        ends: 'through',
        steps: Array.from({ length: 6 }, () => ({ kind: 'keyway' as const, width: 6, diameter: 22.8 })),
      },
    ],
  );
  // A ring that is slit along is a clamp; one that lacks a third of itself is none.
  expectHoles(
    () => made.minus(made.cylinder([0, 0, 0], 15, 40), bore(10), made.box([0, -3, -1], [20, 3, 41])),
    [{ diameter: 20, depth: 40, ends: 'through', steps: [{ kind: 'slit', width: 6 }] }],
  );
  expectHoles(
    () => made.minus(made.cylinder([0, 0, 0], 15, 40), bore(10), made.box([0, -9, -1], [20, 9, 41])),
    [],
  );
});

test('a circlip groove does not part its bore; a groove in a face is no hole', () => {
  expectHoles(
    () => made.minus(plate(), bore(15), made.cylinder([0, 0, 20], 15.7, 2)),
    [{ diameter: 30, depth: 40, ends: 'through', steps: [{ kind: 'groove', diameter: 31.4, depth: 2 }] }],
  );
  expectHoles(
    () =>
      made.minus(plate(), made.minus(made.cylinder([0, 0, 36], 20, 5), made.cylinder([0, 0, 30], 16, 20))),
    [],
  );
  // Round a bore, which stays one.
  expectHoles(
    () =>
      made.minus(
        plate(),
        bore(5),
        made.minus(made.cylinder([0, 0, 36], 20, 5), made.cylinder([0, 0, 30], 16, 20)),
      ),
    [{ diameter: 10, depth: 40, ends: 'through' }],
  );
  // A relief at the bottom of a blind bore.
  expectHoles(
    () => made.minus(plate(), bore(10, 12), made.cylinder([0, 0, 10], 11, 3)),
    [{ diameter: 20, depth: 30, ends: 'blind', steps: [{ kind: 'groove', diameter: 22, depth: 3 }] }],
  );
});

test('two equal bores that cross are two; a small one into a large one ends at its wall', () => {
  const across = (r: number, from = -31, length = 62) => made.cylinder([from, 0, 20], r, length, [1, 0, 0]);
  expectHoles(
    () => made.minus(plate(), bore(8), across(8)),
    [
      { diameter: 16, depth: 60, ends: 'through' },
      { diameter: 16, depth: 40, ends: 'through' },
    ],
  );
  expectHoles(
    () => made.minus(plate(), bore(10), across(3, 0, 31)),
    [
      { diameter: 20, depth: 40, ends: 'through' },
      { diameter: 6, depth: 20, ends: 'through', opensInto: 1 },
    ],
  );
  expectHoles(
    () => made.minus(made.cylinder([0, 0, 0], 25, 40), bore(15), across(3, 0, 31)),
    [
      { diameter: 30, depth: 40, ends: 'through' },
      { diameter: 6, depth: 10, ends: 'through', opensInto: 1 },
    ],
  );
});

test('broken rims count in the depth to the face', () => {
  const slab = () => made.minus(made.box([-30, -30, 0], [30, 30, 10]), bore(6, -1, 11));
  expectHoles(
    () => made.minus(slab(), made.cone([0, 0, 9], 6, 7, 1), made.cone([0, 0, 0], 7, 6, 1)),
    [
      {
        diameter: 12,
        depth: 10,
        ends: 'through',
        steps: [
          { kind: 'chamfer', side: 'near', diameter: 14, depth: 1, angle: 90 },
          { kind: 'chamfer', side: 'far', diameter: 14, depth: 1, angle: 90 },
        ],
      },
    ],
  );
  expectHoles(
    () => roundRims(kernel.oc, slab(), (z, r) => Math.abs(r - 6) < 1e-6 && (z > 9.9 || z < 0.1), 1),
    [
      {
        diameter: 12,
        depth: 10,
        ends: 'through',
        steps: [
          { kind: 'rounding', side: 'near', diameter: 14, depth: 1, width: 1 },
          { kind: 'rounding', side: 'far', diameter: 14, depth: 1, width: 1 },
        ],
      },
    ],
  );
});

test('the eyes of a fork are two holes; a hole through a leaning face is as deep as its axis is long', () => {
  expectHoles(
    () =>
      made.minus(
        plate(),
        made.box([-10, -31, 10], [10, 31, 41]),
        made.cylinder([-31, 0, 25], 6, 62, [1, 0, 0]),
      ),
    [
      { diameter: 12, depth: 20, ends: 'through' },
      { diameter: 12, depth: 20, ends: 'through' },
    ],
  );
  const wedge = () =>
    made.minus(
      plate(),
      made.moved(made.turned(made.box([-60, -60, 0], [60, 60, 60]), [0, 1, 0], 0.3), [0, 0, 25]),
    );
  expectHoles(() => made.minus(wedge(), bore(4)), [{ diameter: 8, depth: 25, ends: 'through' }]);
  // Half way over the edge to a step: the face that holds most of the rim counts.
  expectHoles(
    () => made.minus(plate(), made.box([2, -31, 35], [31, 31, 41]), bore(4)),
    [{ diameter: 8, depth: 40, ends: 'through' }],
  );
});

test('a part whose topology is damaged may lose holes; no figure is ever none, and nothing throws', () => {
  const whole = describePart(
    kernel.oc,
    made.minus(plate(), bore(3.3), made.cylinder([0, 0, 33.6], 5.5, 10), made.cone([15, 0, 30], 0, 4, 11)),
  );
  const some = (count: number) => fc.array(fc.nat(count - 1), { maxLength: 4 });
  const damage = fc.record({
    lost: some(whole.edges.length),
    bare: some(whole.edges.length),
    alone: some(whole.edges.length),
    turned: some(whole.faces.length),
  });
  fc.assert(
    fc.property(damage, ({ lost, bare, alone, turned }) => {
      // Edges that are in no face's outline, have no line, or bound one face only; faces
      // told to look the other way.
      const edges = whole.edges.map((e, i) => (alone.includes(i) ? { ...e, faces: e.faces.slice(0, 1) } : e));
      const faces = whole.faces.map((f, i) => ({
        ...f,
        concave: f.concave !== turned.includes(i),
        edges: f.edges.filter((e) => !lost.includes(e)),
      }));
      const start = whole.lines.start.slice();
      for (const e of bare) start.fill(start[e], e + 1, e + 2);
      const holes = recogniseHoles({ ...whole, edges, faces, lines: { ...whole.lines, start } });
      for (const h of holes)
        for (const x of [h.diameter, h.depth, ...h.start, ...h.steps.flatMap((s) => [s.diameter, s.depth])])
          expect(Number.isFinite(x)).toBe(true);
    }),
    { numRuns: 300 },
  );
});

describe('bores that come out of what is round', () => {
  const bar = () => made.cylinder([-50, 0, 0], 20, 100, [1, 0, 0]);
  const across = (radius: number, x = 0, y = 0) => made.cylinder([x, y, -60], radius, 120);
  /** Least and greatest depth along the wall, in each way it is written. */
  const alongOf = (make: () => Occt, which = 0) =>
    WAYS.map(([, factor, write]) => {
      const { along } = describePart(kernel.oc, write(made, make())).holes[which];
      return along && [along.least / factor, along.greatest / factor];
    });

  test('through a bar, also beside its middle; depth to the axis of its mouth, least and greatest along the wall', () => {
    const make = () => made.minus(bar(), across(3));
    expectHoles(make, [{ diameter: 6, depth: 40, ends: 'through' }]);
    // Along the bar’s own direction the wall is as deep as on the axis; square to it less.
    for (const along of alongOf(make))
      expect(along).toEqual([expect.closeTo(2 * Math.sqrt(400 - 9), 3), expect.closeTo(40, 3)]);
    const beside = () => made.minus(bar(), across(3, 0, 12));
    expectHoles(beside, [{ diameter: 6, depth: 32, ends: 'through' }]);
    for (const along of alongOf(beside))
      expect(along).toEqual([
        expect.closeTo(2 * Math.sqrt(400 - 225), 3),
        expect.closeTo(2 * Math.sqrt(400 - 81), 3),
      ]);
  });

  test('blind in a bar, and through one wall of a tube', () => {
    expectHoles(
      () => made.minus(bar(), made.cylinder([0, 0, 5], 3, 40)),
      [{ diameter: 6, depth: 15, ends: 'blind' }],
    );
    const tube = () =>
      made.minus(bar(), made.cylinder([-60, 0, 0], 15, 120, [1, 0, 0]), made.cylinder([0, 0, 0], 3, 40));
    expectHoles(tube, [
      { diameter: 30, depth: 100, ends: 'through' },
      { diameter: 6, depth: 5, ends: 'through', opensInto: 1 },
    ]);
  });

  test('through a ball: no counterbores, no ball bottom', () => {
    const make = () => made.minus(made.sphere([0, 0, 0], 20), across(5));
    expectHoles(make, [{ diameter: 10, depth: 40, ends: 'through' }]);
    for (const along of alongOf(make))
      expect(along).toEqual([expect.closeTo(2 * Math.sqrt(375), 3), expect.closeTo(2 * Math.sqrt(375), 3)]);
  });
});

test('a clamp bore with a slit is a bore; a relieved corner of a pocket is none', () => {
  const clamp = () => made.minus(plate(), bore(10), made.box([-1.5, 0, -1], [1.5, 40, 41]));
  expectHoles(clamp, [{ diameter: 20, depth: 40, ends: 'through', steps: [{ kind: 'slit', width: 3 }] }]);
  expectHoles(
    () => made.minus(plate(), made.box([-20, -20, 10], [20, 20, 41]), made.cylinder([20, 20, 10], 4, 40)),
    [],
  );
});

test('a figure of eight is two bores that meet, without keyways', () => {
  const make = () =>
    made.minus(plate(), made.cylinder([-7, 0, -1], 10, 50), made.cylinder([8, 0, -1], 8, 50));
  expectHoles(make, [
    { diameter: 20, depth: 40, ends: 'through', opensInto: 1 },
    { diameter: 16, depth: 40, ends: 'through', opensInto: 1 },
  ]);
});

test('a spot face wider than two and a half bores belongs to its bore; a wide pocket does not', () => {
  expectHoles(
    () => made.minus(plate(), bore(3), made.cylinder([0, 0, 38.5], 10, 5)),
    [{ diameter: 6, depth: 40, ends: 'through', steps: [{ kind: 'counterbore', diameter: 20, depth: 1.5 }] }],
  );
  expectHoles(
    () => made.minus(plate(), bore(3), made.cylinder([0, 0, 20], 10, 25)),
    [
      { diameter: 20, depth: 20, ends: 'blind' },
      { diameter: 6, depth: 20, ends: 'through', opensInto: 1 },
    ],
  );
});

test('a bore that a slot interrupts is one bore in two pieces; two lugs far apart are not', () => {
  const lug = (gap: number) => () =>
    made.minus(
      made.box([-20, -30, 0], [20, 30, 40]),
      made.box([-30, -gap / 2, 15], [30, gap / 2, 41]),
      made.cylinder([0, -40, 30], 5, 80, [0, 1, 0]),
    );
  expectHoles(lug(8), [{ diameter: 10, depth: 60, ends: 'through', steps: [{ kind: 'gap', width: 8 }] }]);
  expectHoles(lug(30), [
    { diameter: 10, depth: 15, ends: 'through' },
    { diameter: 10, depth: 15, ends: 'through' },
  ]);
});

test('a cone between a bore and a wider one is a cone; equal bores with unlike points are no row', () => {
  const cone = 4 / Math.tan((143.13 / 2 / 180) * Math.PI);
  expectHoles(
    () =>
      made.minus(
        plate(),
        bore(4),
        made.cone([0, 0, 30 - cone], 4, 8, cone),
        made.cylinder([0, 0, 30], 8, 20),
      ),
    [
      {
        diameter: 8,
        depth: 40,
        ends: 'through',
        steps: [
          { kind: 'cone', angle: 143.13 },
          { kind: 'counterbore', diameter: 16, depth: 10 },
        ],
      },
    ],
  );
  const blind = (x: number, tip: number) =>
    made.plus(made.cylinder([x, 0, 20], 3, 30), made.cone([x, 0, 20 - tip], 0, 3, tip));
  const { holes } = describePart(kernel.oc, made.minus(plate(), blind(-20, 1), blind(0, 2), blind(20, 1)));
  expect(holes).toHaveLength(3);
  expect(patternOf(holes, 0)).toBeNull();
});
