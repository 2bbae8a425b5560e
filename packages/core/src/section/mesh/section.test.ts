import type { Point2 } from '../../math/point2.ts';
import fc from 'fast-check';
import { cross, dot, frameOf, normalize, type Vec3 } from '../../math/vec3.ts';
import { weld } from '../../geometry/weld.ts';
import type { PartGeometry } from '../../geometry/part-geometry.ts';
import { buildPartBvh } from '../../picking/pick-scene.ts';
import { boxPart } from '../../testing/box-part.ts';
import { cylinderPart, spherePart } from '../../testing/round-parts.ts';
import { aboutPoint, sectionProperties } from '../section-properties.ts';
import { sliceMesh } from './slice-mesh.ts';

const CORNER_STEPS = 200;

/**
 * A quarter round from one point to another about a centre; anticlockwise for an outer,
 * clockwise for an inner corner.
 */
const round = (cx: number, cy: number, r: number, from: number, to: number): Point2[] =>
  Array.from({ length: CORNER_STEPS + 1 }, (_, i) => {
    const a = from + ((to - from) * i) / CORNER_STEPS;
    return [cx + r * Math.cos(a), cy + r * Math.sin(a)];
  });
const Q = Math.PI / 2;

/** An I profile with root radii, about its middle. */
function iProfile(h: number, b: number, tw: number, tf: number, r: number): Point2[] {
  const [x, y, w, f] = [b / 2, h / 2, tw / 2, h / 2 - tf];
  return [
    [-x, -y],
    [x, -y],
    [x, -f],
    ...round(w + r, -f + r, r, -Q, -2 * Q),
    ...round(w + r, f - r, r, 2 * Q, Q),
    [x, f],
    [x, y],
    [-x, y],
    [-x, f],
    ...round(-w - r, f - r, r, Q, 0),
    ...round(-w - r, -f + r, r, 0, -Q),
    [-x, -f],
  ];
}

describe('figures of a region', () => {
  const near = (found: number, wanted: number, relative: number) =>
    expect(Math.abs(found / wanted - 1)).toBeLessThan(relative);

  test('rectangle, ring and triangle: closed forms (Dubbel, section C, second moments of area)', () => {
    const rectangle = sectionProperties([
      [
        [10, 20],
        [40, 20],
        [40, 30],
        [10, 30],
      ],
    ])!;
    expect(rectangle).toMatchObject({
      area: 300,
      perimeter: 80,
      centroid: [25, 25],
      ix: expect.closeTo((30 * 10 ** 3) / 12, 6),
      iy: expect.closeTo((10 * 30 ** 3) / 12, 6),
      ixy: expect.closeTo(0, 6),
    });
    expect(rectangle.principalAngle).toBeCloseTo(Math.PI / 2, 9);
    expect(aboutPoint(rectangle, [10, 20]).ix).toBeCloseTo((30 * 10 ** 3) / 3, 6);
    const circle = (r: number, sign: 1 | -1): Point2[] =>
      Array.from({ length: 3000 }, (_, i) => [
        r * Math.cos((sign * 2 * Math.PI * i) / 3000),
        r * Math.sin((sign * 2 * Math.PI * i) / 3000),
      ]);
    const ring = sectionProperties([circle(20, 1), circle(15, -1)])!;
    near(ring.area, Math.PI * (400 - 225), 1e-5);
    near(ring.polar, (Math.PI / 2) * (20 ** 4 - 15 ** 4), 1e-5);
    const triangle = sectionProperties([
      [
        [0, 0],
        [30, 0],
        [0, 20],
      ],
    ])!;
    expect(triangle.ix).toBeCloseTo((30 * 20 ** 3) / 36, 6);
    expect(triangle.ixy).toBeCloseTo((-(30 ** 2) * 20 ** 2) / 72, 6);
    expect(sectionProperties([])).toBeNull();
  });

  // Tables of EN 10365 profiles, from memory: area in cm², second moments in cm⁴.
  test.each([
    ['IPE 200', iProfile(200, 100, 5.6, 8.5, 12), 28.48, 1943, 142.4],
    ['IPE 300', iProfile(300, 150, 7.1, 10.7, 15), 53.81, 8356, 603.8],
    ['HEA 200', iProfile(190, 200, 6.5, 10, 18), 53.83, 3692, 1336],
    ['HEB 200', iProfile(200, 200, 9, 15, 18), 78.08, 5696, 2003],
  ])('%s against the table', (_, profile, area, ix, iy) => {
    const found = sectionProperties([profile])!;
    near(found.area, area * 100, 6e-4);
    near(found.ix, ix * 1e4, 6e-4);
    near(found.iy, iy * 1e4, 6e-4);
    expect(found.principalAngle).toBeCloseTo(0, 9);
  });

  test('area and principal moments do not depend on how the region lies', () => {
    const shape: Point2[] = [
      [0, 0],
      [40, 0],
      [40, 6],
      [6, 6],
      [6, 60],
      [0, 60],
    ];
    const straight = sectionProperties([shape])!;
    fc.assert(
      fc.property(
        fc.double({ min: -1e4, max: 1e4, noNaN: true }),
        fc.double({ min: -1e4, max: 1e4, noNaN: true }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        (x, y, a) => {
          const moved = sectionProperties([
            shape.map(([u, v]): Point2 => [
              x + u * Math.cos(a) - v * Math.sin(a),
              y + u * Math.sin(a) + v * Math.cos(a),
            ]),
          ])!;
          expect(moved.area).toBeCloseTo(straight.area, 5);
          expect(moved.principal[0]).toBeCloseTo(straight.principal[0], 1);
          expect(moved.principal[1]).toBeCloseTo(straight.principal[1], 1);
          const turned = moved.principalAngle - straight.principalAngle - a;
          expect(Math.abs(Math.sin(turned))).toBeLessThan(1e-6);
        },
      ),
    );
  });
});

describe('cutting meshes', () => {
  const cut = (part: PartGeometry, normal: Vec3, constant: number) => {
    const slice = sliceMesh(part, weld(part), buildPartBvh(part), { normal, constant });
    const { u } = frameOf(normal);
    const v = cross(normal, u);
    return {
      ...slice,
      properties: sectionProperties(slice.loops.map((l) => l.map((p): Point2 => [dot(p, u), dot(p, v)]))),
    };
  };

  test('a box, square on and aslant; a plane that holds a face or an edge still closes', () => {
    const part = boxPart(10, 20, 30);
    expect(cut(part, [0, 0, 1], 15).properties!.area).toBeCloseTo(200, 6);
    expect(cut(part, normalize([1, 0, 1]), 10).properties!.area).toBeCloseTo(20 * 10 * Math.SQRT2, 4);
    for (const [normal, constant] of [
      [[0, 0, 1], 0],
      [[0, 0, 1], 30],
      [[1, 0, 0], 10],
      [normalize([1, 1, 0]), 0],
    ] as [Vec3, number][])
      expect(cut(part, normal, constant).open).toEqual([]);
  });

  test('a sphere at any height, a cylinder across and along: closed forms within the facets', () => {
    const sphere = spherePart(8);
    for (const h of [-6, -1, 0, 3.3, 7])
      expect(
        Math.abs(cut(sphere, [0, 0, 1], h).properties!.area / (Math.PI * (64 - h * h)) - 1),
      ).toBeLessThan(0.02);
    const cylinder = cylinderPart(5, 20);
    expect(Math.abs(cut(cylinder, [0, 0, 1], 7).properties!.area / (25 * Math.PI) - 1)).toBeLessThan(0.003);
    expect(cut(cylinder, [1, 0, 0], 0).properties!.area).toBeCloseTo(200, 1);
    // Aslant at 45° an ellipse: π a b with a = r√2.
    expect(
      Math.abs(
        cut(cylinder, normalize([0, 1, 1]), 10 / Math.SQRT2).properties!.area / (25 * Math.PI * Math.SQRT2) -
          1,
      ),
    ).toBeLessThan(0.003);
  });

  test('any plane through a closed mesh gives closed loops only; the areas along an axis add up to the volume', () => {
    const parts = [boxPart(10, 20, 30), cylinderPart(5, 20), spherePart(8)];
    const unit = fc.double({ min: -1, max: 1, noNaN: true });
    fc.assert(
      fc.property(
        fc.nat(2),
        fc.tuple(unit, unit, unit).filter((n) => Math.hypot(...n) > 0.1),
        unit,
        (i, n, offset) => {
          expect(cut(parts[i], normalize(n as Vec3), offset * 15).open).toEqual([]);
        },
      ),
    );
    const steps = 400;
    const volume =
      Array.from(
        { length: steps },
        (_, i) => cut(parts[0], normalize([1, 2, 3]), ((i + 0.5) / steps) * 40).properties?.area ?? 0,
      ).reduce((a, b) => a + b) *
      (40 / steps);
    expect(Math.abs(volume / 6000 - 1)).toBeLessThan(1e-4);
  });
});
