import fc from 'fast-check';
import { planeFrame } from '../section/mesh/cap-of-loops.ts';
import {
  propertiesOfCurves,
  splitCurve,
  curveLength,
  endOf,
  startOf,
  type PlaneCurve,
} from '../section/curves/plane-curves.ts';
import { readSection } from '../section/planes/section-plane.ts';
import { distance, subtract, addScaled, dot, cross, length, normalize, type Vec3 } from '../math/vec3.ts';
import { nearestOfSegments, patchDistance } from '../math/patch-distance.ts';
import { describeCut, type KnownCut } from './describe-cut.ts';

const Q = Math.PI / 2;
const curves: PlaneCurve[] = [
  { shape: 'line', from: [0, 0], to: [40, 0] },
  { shape: 'arc', centre: [40, 10], radius: 10, from: -Q, to: Q },
  { shape: 'line', from: [40, 20], to: [0, 20] },
  {
    shape: 'polyline',
    points: [
      [0, 20],
      [-0.1, 10],
      [0, 0],
    ],
    tolerance: 1e-4,
  },
];
const hole: PlaneCurve = { shape: 'arc', centre: [20, 10], radius: 4, from: 2 * Math.PI, to: 0 };
const cut = (exact: boolean): KnownCut => ({
  frame: planeFrame({ normal: [0, 0, 1], constant: 15 }),
  curves: [...curves, hole],
  properties: propertiesOfCurves([curves, [hole]]),
  exact,
  chord: exact ? 1e-4 : 0.02,
});

describe('what is said of a picked cut', () => {
  test('the face: area, perimeter and centroid in the model, exact or with the bound that the mesh gives', () => {
    const exact = describeCut('cap', 0, cut(true))!;
    // One of its outlines is a free curve, which is followed.
    expect(exact).toMatchObject({ title: 'Cut face', accuracy: { kind: 'followed' } });
    expect(describeCut('cap', 0, { ...cut(true), chord: 0 })!.accuracy).toEqual({ kind: 'exact' });
    // The plate, half a disc, a sliver of 20 × 0.1 / 2, less the hole.
    expect(exact.main!.value).toMatchObject({
      kind: 'area',
      value: expect.closeTo(800 + 50 * Math.PI + 1 - 16 * Math.PI, 9),
    });
    expect(exact.rows.find((r) => r.label === 'Centroid')!.value).toMatchObject({
      kind: 'point',
      value: [expect.any(Number), expect.closeTo(10, 9), 15],
    });
    const mesh = describeCut('cap', 0, cut(false))!;
    const { area, perimeter } = cut(false).properties!;
    expect(mesh.accuracy).toEqual({ kind: 'mesh', within: (0.02 * perimeter) / area });
    expect(describeCut('cap', 0, { ...cut(true), properties: null })).toBeNull();
  });

  test('outlines by what they are: a line has a length, an arc a radius, a whole turn a diameter, a free curve is never exact', () => {
    expect(describeCut('outline', 0, cut(true))).toMatchObject({
      title: 'Straight cut edge',
      main: { value: { kind: 'length', value: expect.closeTo(40, 12) } },
      accuracy: { kind: 'exact' },
    });
    const arc = describeCut('outline', 1, cut(true))!;
    expect(arc).toMatchObject({
      title: 'Arc of the cut',
      main: { label: 'Radius', value: { value: 10, prefix: 'R' } },
    });
    expect(arc.rows.map((r) => [r.label, r.value])).toEqual([
      ['Angle', { kind: 'angle', value: Math.PI }],
      ['Length', { kind: 'length', value: expect.closeTo(10 * Math.PI, 9) }],
      ['Centre', { kind: 'point', value: [40, 10, 15] }],
    ]);
    expect(describeCut('outline', 4, cut(true))).toMatchObject({
      title: 'Round cut edge',
      main: { label: 'Diameter', value: { value: 8, prefix: 'Ø' } },
    });
    expect(describeCut('outline', 3, cut(true))!.accuracy).toMatchObject({ kind: 'followed' });
    expect(describeCut('outline', 0, cut(false))!.accuracy).toMatchObject({
      kind: 'mesh',
      within: 0.02 / 40,
    });
    expect(describeCut('outline', 9, cut(true))).toBeNull();
  });

  test('a corner is a point of the model', () => {
    expect(describeCut('corner', 2, cut(true))).toMatchObject({
      title: 'Cut corner',
      rows: [{ value: { kind: 'point', value: [40, 20, 15] } }],
    });
  });
});

describe('distance of curves and surfaces', () => {
  const unit = fc.double({ min: -10, max: 10, noNaN: true });
  const point = fc.tuple(unit, unit, unit);

  test('known cases: crossing, skew, parallel and beside each other, a point before a line', () => {
    expect(
      patchDistance(
        {
          chains: [
            [
              [0, 0, 0],
              [10, 0, 0],
            ],
          ],
        },
        {
          chains: [
            [
              [5, -5, 0],
              [5, 5, 0],
            ],
          ],
        },
      )!.distance,
    ).toBeCloseTo(0, 12);
    // Two edges of a cube that do not meet, the one across the other: a face apart.
    expect(
      patchDistance(
        {
          chains: [
            [
              [0, 0, 0],
              [1, 0, 0],
            ],
          ],
        },
        {
          chains: [
            [
              [0, 0, 1],
              [0, 1, 1],
            ],
          ],
        },
      )!,
    ).toMatchObject({ distance: 1, from: [0, 0, 0], to: [0, 0, 1] });
    expect(
      patchDistance(
        {
          chains: [
            [
              [0, 0, 0],
              [4, 0, 0],
            ],
          ],
        },
        {
          chains: [
            [
              [6, 3, 0],
              [9, 3, 0],
            ],
          ],
        },
      )!.distance,
    ).toBeCloseTo(Math.hypot(2, 3), 12);
    expect(
      patchDistance(
        { chains: [[[2, 7, 0]]] },
        {
          chains: [
            [
              [0, 0, 0],
              [4, 0, 0],
            ],
          ],
        },
      )!,
    ).toMatchObject({ distance: 7, to: [2, 0, 0] });
    expect(patchDistance({ chains: [[[1, 1, 1]]] }, { chains: [[[1, 1, 1]]] })!.distance).toBe(0);
  });

  test('surfaces: parallel plates, a point over one and beside it, a line through one, nothing at all', () => {
    const plate = (z: number, x = 0): Vec3[] => [
      [x, 0, z],
      [x + 10, 0, z],
      [x + 10, 10, z],
      [x, 0, z],
      [x + 10, 10, z],
      [x, 10, z],
    ];
    expect(patchDistance({ triangles: plate(0) }, { triangles: plate(7, 3) })!.distance).toBeCloseTo(7, 12);
    expect(patchDistance({ triangles: plate(0) }, { triangles: plate(4, 13) })).toMatchObject({
      distance: expect.closeTo(5, 12),
    });
    expect(patchDistance({ chains: [[[4, 6, 2.5]]] }, { triangles: plate(0) })).toMatchObject({
      distance: 2.5,
      to: [4, 6, 0],
    });
    expect(patchDistance({ triangles: plate(0) }, { chains: [[[13, 6, 4]]] })).toMatchObject({
      distance: 5,
      from: [10, 6, 0],
    });
    expect(
      patchDistance(
        {
          chains: [
            [
              [4, 3, -1],
              [4, 3, 1],
            ],
          ],
        },
        { triangles: plate(0) },
      ),
    ).toMatchObject({ distance: 0, from: [4, 3, 0] });
    expect(patchDistance({ chains: [] }, { triangles: plate(0) })).toBeNull();
  });

  test('no points of two triangles are nearer than what is found, however they lie', () => {
    const triangle = fc.tuple(point, point, point);
    fc.assert(
      fc.property(triangle, triangle, (a, b) => {
        const found = patchDistance({ triangles: a }, { triangles: b })!;
        expect(distance(found.from, found.to)).toBeCloseTo(found.distance, 9);
        const at = ([p, q, r]: readonly Vec3[], s: number, t: number): Vec3 =>
          addScaled(addScaled(p, subtract(q, p), s), subtract(r, p), t);
        for (let i = 0; i <= 4; i++)
          for (let j = 0; i + j <= 4; j++)
            for (let k = 0; k <= 4; k++)
              for (let l = 0; k + l <= 4; l++)
                expect(distance(at(a, i / 4, j / 4), at(b, k / 4, l / 4))).toBeGreaterThan(
                  found.distance - 1e-6,
                );
        // The other way round it is the same.
        expect(patchDistance({ triangles: b }, { triangles: a })!.distance).toBeCloseTo(found.distance, 6);
      }),
    );
  });

  test('no pair of points is nearer than what is found, and both points lie on their segments', () => {
    fc.assert(
      fc.property(point, point, point, point, (a, b, c, d) => {
        const { from, to } = nearestOfSegments(a, b, c, d);
        const away = distance(from, to);
        for (let i = 0; i <= 12; i++)
          for (let j = 0; j <= 12; j++)
            expect(
              distance(addScaled(a, subtract(b, a), i / 12), addScaled(c, subtract(d, c), j / 12)),
            ).toBeGreaterThan(away - 1e-9);
        for (const [p, s, e] of [
          [from, a, b],
          [to, c, d],
        ] as [Vec3, Vec3, Vec3][]) {
          const along = subtract(e, s);
          const share = dot(subtract(p, s), along) / Math.max(dot(along, along), 1e-12);
          expect(
            length(cross(subtract(p, s), normalize(length(along) > 0 ? along : [1, 0, 0]))),
          ).toBeLessThan(1e-6 + (length(along) > 0 ? 0 : distance(p, s)));
          expect(share).toBeGreaterThan(-1e-9);
          expect(share).toBeLessThan(1 + 1e-9);
        }
      }),
    );
  });
});

test('a curve split along any line: its pieces follow each other, have its length, and each lies on one side', () => {
  const all: PlaneCurve[] = [
    ...curves,
    hole,
    { shape: 'ellipse', centre: [3, 4], major: [6, 2], ratio: -0.4, from: 0.3, to: 5.9 },
  ];
  fc.assert(
    fc.property(
      fc.constantFrom(...all),
      fc.double({ min: 0, max: 6.28, noNaN: true }),
      fc.double({ min: -30, max: 50, noNaN: true }),
      (curve, angle, c) => {
        const [a, b] = [Math.cos(angle), Math.sin(angle)];
        const pieces = splitCurve(curve, [a, b, c]);
        expect(pieces.reduce((sum, p) => sum + curveLength(p.piece), 0)).toBeCloseTo(curveLength(curve), 6);
        pieces.forEach(({ piece, inside }, i) => {
          if (i > 0)
            expect(
              Math.hypot(
                startOf(piece)[0] - endOf(pieces[i - 1].piece)[0],
                startOf(piece)[1] - endOf(pieces[i - 1].piece)[1],
              ),
            ).toBeLessThan(1e-9);
          for (const [x, y] of [startOf(piece), endOf(piece)])
            expect((c - a * x - b * y) * (inside ? 1 : -1)).toBeGreaterThan(-1e-6);
        });
      },
    ),
  );
});

test('an arc that touches a line, and segments that nearly lie in one line: told by what can be told', () => {
  const arc: PlaneCurve = { shape: 'arc', centre: [40, 10], radius: 10, from: -Math.PI / 2, to: Math.PI / 2 };
  for (const angle of [0, 5e-324, 1e-17])
    expect(splitCurve(arc, [Math.cos(angle), Math.sin(angle), 50])).toEqual([{ piece: arc, inside: true }]);
  expect(splitCurve(arc, [-1, 0, -50])).toEqual([{ piece: arc, inside: false }]);
  const { from, to } = nearestOfSegments(
    [0, 0, 0],
    [9.999998867433435, 0, 0],
    [0, -4.475111832181086e-8, 0],
    [9.999999049962659, 0, 0],
  );
  expect(distance(from, to)).toBeLessThan(1e-13);
});

test('a stored section is read as far as it makes sense: planes without a unit normal or a place are left out, no more than six are taken', () => {
  const plane = { id: 'a', name: 'A', origin: [0, 0, 0], normal: [0, 0, 1], offset: 3 };
  expect(
    readSection({
      planes: [
        plane,
        { ...plane, normal: [0, 0, 2] },
        { ...plane, origin: [0, 0] },
        { ...plane, offset: 'x' },
        null,
      ],
      on: true,
      combine: 'all',
    }),
  ).toEqual({ on: true, combine: 'all', planes: [{ ...plane, flipped: false, on: true }] });
  expect(readSection({ planes: Array.from({ length: 9 }, () => plane), combine: 'neither' })).toMatchObject({
    combine: 'any',
    planes: { length: 6 },
  });
  for (const rubbish of [null, undefined, 7, 'planes', { planes: 'x' }])
    expect(readSection(rubbish)).toEqual({ on: true, combine: 'any', planes: [] });
});
