import { IDENTITY, type Mat4, type Vec3 } from '@bathyscope/core/math';
import {
  solidMeshOf,
  interferenceOfPair,
  type InterferenceEffort,
  type PairInterference,
} from './interference-of-pair.ts';
import type { Occt } from '../occt/load.ts';
import { madeSolids, type MadeSolids } from '../testing/made-solids.ts';
import { testKernel } from '../testing/test-kernel.ts';

let made: MadeSolids;
let interference: (a: Occt, b: Occt, placement?: Mat4, effort?: InterferenceEffort) => PairInterference;

beforeAll(async () => {
  const kernel = await testKernel();
  made = madeSolids(kernel.oc);
  const body = (shape: Occt, placement: Mat4) => ({ shape, mesh: solidMeshOf(kernel.oc, shape), placement });
  interference = (a, b, placement = IDENTITY, effort = 'exact') =>
    interferenceOfPair(kernel, body(a, IDENTITY), body(b, placement), effort);
});

const at = (x: number, y: number, z: number): Mat4 => [...IDENTITY.slice(0, 12), x, y, z, 1];

describe('what two solids share, against closed forms', () => {
  test('boxes', () => {
    const box = made.box([0, 0, 0], [30, 20, 10]);
    const { relation, clash, from } = interference(box, box, at(29.9, 5, 2));
    expect(relation).toBe('clash');
    expect(clash!.volume).toBeCloseTo(0.1 * 15 * 8, 9);
    expect(clash!.depth).toBeCloseTo(0.1, 7);
    expect(clash!.within).toBe(0);
    expect(from[0]).toBeCloseTo(29.95, 6);
  });

  test('spheres: a lens, π(4r + d)(2r − d)²/12', () => {
    const { clash, from } = interference(
      made.sphere([0, 0, 0], 10),
      made.sphere([0, 0, 0], 10),
      at(0, 0, 19),
    );
    expect(clash!.volume).toBeCloseTo((Math.PI * (40 + 19) * (20 - 19) ** 2) / 12, 7);
    expect(clash!.depth).toBeCloseTo(1, 5);
    expect(from[2]).toBeCloseTo(9.5, 4);
  });

  test('crossing cylinders of one radius: Steinmetz, 16 r³/3', () => {
    const { clash } = interference(
      made.cylinder([0, 0, -20], 5, 40),
      made.cylinder([-20, 0, 0], 5, 40, [1, 0, 0]),
    );
    expect(clash!.volume / ((16 * 125) / 3)).toBeCloseTo(1, 7);
    expect(clash!.depth).toBeCloseTo(10, 4);
  });

  test('a shaft pressed into a bore 0.02 mm too small: a thin ring, as thick as the radii differ', () => {
    const hub = made.minus(made.cylinder([0, 0, 0], 20, 12), made.cylinder([0, 0, -1], 8, 14));
    const { clash } = interference(hub, made.cylinder([0, 0, -10], 8.02, 40));
    expect(clash!.volume / (Math.PI * (8.02 ** 2 - 64) * 12)).toBeCloseTo(1, 8);
    expect(clash!.depth).toBeCloseTo(0.02, 6);
  });

  test('flat lenses, far wider than thick: the thickest place is found however far aside the search begins', () => {
    for (const [r, s, thick] of [
      [10, 10, 0.002],
      [50, 10, 0.002],
      [200, 30, 0.01],
      [10, 10, 0.05],
    ]) {
      const { clash } = interference(
        made.sphere([0, 0, 0], r),
        made.sphere([0, 0, 0], s),
        at((r + s - thick) * 0.6, (r + s - thick) * 0.8, 0),
      );
      expect(clash!.depth / thick).toBeCloseTo(1, 3);
    }
  });

  test('one within the other, not touching it', () => {
    const ball = made.sphere([0, 0, 0], 3);
    for (const { relation, clash } of [
      interference(made.box([-9, -9, -9], [9, 9, 9]), ball, at(1, 2, 3), 'quick'),
      interference(ball, made.box([-9, -9, -9], [9, 9, 9]), at(1, 2, 3), 'quick'),
    ]) {
      expect(relation).toBe('clash');
      expect(clash!.volume / (36 * Math.PI)).toBeCloseTo(1, 8);
      expect(clash!.depth).toBeCloseTo(6, 5);
    }
  });
});

test('by the meshes alone, what two share is within what is said', () => {
  for (const [a, b, there, volume] of [
    [made.sphere([0, 0, 0], 10), made.sphere([0, 0, 0], 10), at(0, 0, 15), (Math.PI * 55 * 25) / 12],
    [
      made.cylinder([0, 0, -20], 5, 40),
      made.cylinder([-20, 0, 0], 5, 40, [1, 0, 0]),
      IDENTITY,
      (16 * 125) / 3,
    ],
  ] as const) {
    const { relation, clash, accuracy } = interference(a, b, there, 'mesh');
    expect({ relation, kind: accuracy.kind }).toEqual({ relation: 'clash', kind: 'mesh' });
    expect(Math.abs(clash!.volume - volume)).toBeLessThanOrEqual(clash!.within);
    expect(clash!.within / volume).toBeLessThan(0.1);
  }
});

describe('gap and contact', () => {
  test('faces that lie on each other, and a shaft that fills its bore, touch', () => {
    const plate = made.minus(made.box([-20, -20, 0], [20, 20, 5]), made.cylinder([0, 0, -1], 6, 9));
    expect(interference(plate, made.box([-5, -5, 0], [5, 15, 3]), at(0, 0, 5))).toMatchObject({
      relation: 'contact',
      distance: 0,
      clash: null,
    });
    expect(interference(plate, made.cylinder([0, 0, -10], 6, 40))).toMatchObject({
      relation: 'contact',
      distance: 0,
      clash: null,
    });
  });

  test('a gap far below the mesh’s own accuracy is exact', () => {
    const hub = made.minus(made.cylinder([0, 0, 0], 60, 12), made.cylinder([0, 0, -1], 40, 14));
    const { relation, distance, accuracy } = interference(
      hub,
      made.cylinder([0, 0, -10], 39.995, 40),
      IDENTITY,
      'quick',
    );
    expect({ relation, accuracy }).toEqual({ relation: 'gap', accuracy: { kind: 'exact' } });
    expect(distance).toBeCloseTo(0.005, 9);
  });

  test('far apart the mesh answers within its bound, and exactly when asked', () => {
    const [ball, other] = [made.sphere([0, 0, 0], 10), made.torus([0, 0, 0], 20, 4)];
    const there: Mat4 = [0.6, 0.8, 0, 0, 0, 0, 1, 0, 0.8, -0.6, 0, 0, 70, 15, -8, 1];
    const quick = interference(ball, other, there, 'quick');
    const exact = interference(ball, other, there);
    expect(quick.accuracy.kind).toBe('mesh');
    const within = (quick.accuracy as { within: number }).within;
    expect(exact.accuracy.kind).toBe('exact');
    expect(Math.abs(quick.distance - exact.distance)).toBeLessThanOrEqual(within);
    // Centre of the ball to the torus’s circle, less both radii; the torus’s axis is the third column.
    const [axis, to]: Vec3[] = [
      [0.8, -0.6, 0],
      [-70, -15, 8],
    ];
    const height = axis[0] * to[0] + axis[1] * to[1] + axis[2] * to[2];
    const out = Math.sqrt(to[0] ** 2 + to[1] ** 2 + to[2] ** 2 - height ** 2);
    expect(exact.distance).toBeCloseTo(Math.hypot(out - 20, height) - 14, 6);
    expect(Math.hypot(...exact.from.map((x, k) => x - exact.to[k]))).toBeCloseTo(exact.distance, 6);
  });

  test('the same 10 km from the origin, either way round, and mirrored', () => {
    const ring = made.moved(
      made.minus(made.cylinder([0, 0, 0], 20, 12), made.cylinder([0, 0, -1], 8, 14)),
      [1e7, 2e7, 0],
    );
    const pin = made.cylinder([0, 0, -10], 8.02, 40);
    for (const { relation, clash } of [
      interference(ring, pin, at(1e7, 2e7, 0)),
      interference(made.moved(pin, [1e7, 2e7, 0]), ring),
    ]) {
      expect(relation).toBe('clash');
      expect(clash!.volume / (Math.PI * (8.02 ** 2 - 64) * 12)).toBeCloseTo(1, 5);
      expect(clash!.depth).toBeCloseTo(0.02, 5);
    }
    const wedge = made.box([0, 0, 0], [10, 5, 2]);
    expect(
      interference(wedge, wedge, [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 10.5, 0, 0, 1]).clash!.volume,
    ).toBeCloseTo(9.5 * 5 * 2, 8);
  });
});

test('a taper that fits its socket is contact, also as B-splines: a clash smaller than its bound is none', () => {
  const [taper, socket] = [
    made.cone([0, 0, 0], 20, 5, 60),
    made.minus(made.cylinder([0, 0, 0], 30, 60), made.cone([0, 0, 0], 20, 5, 60)),
  ];
  for (const [a, b] of [
    [taper, socket],
    [made.asSplines(taper), made.asSplines(socket)],
    [made.asSplines(taper), socket],
  ])
    for (const effort of ['exact', 'quick', 'mesh'] as const)
      expect(interference(a, b, IDENTITY, effort)).toMatchObject({ relation: 'contact', clash: null });
});
