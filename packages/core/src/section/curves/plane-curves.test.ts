import type { Point2 } from '../../math/point2.ts';
import fc from 'fast-check';
import { rotate, rotationAbout } from '../../math/quaternion.ts';
import { transformBox } from '../../math/box3.ts';
import { transformPoint, type Mat4 } from '../../math/mat4.ts';
import { dot, length, map3, normalize, scale, subtract, toVec3, type Vec3 } from '../../math/vec3.ts';

import type { PartGeometry } from '../../geometry/part-geometry.ts';
import { boxPart } from '../../testing/box-part.ts';
import { planeFrame } from '../mesh/cap-of-loops.ts';
import { chainCurves } from './chain-curves.ts';
import { clipCurves, clipLoops, halfPlaneOf, type HalfPlane } from '../mesh/clip-loops.ts';
import { cutChain } from '../../math/plane.ts';
import { cutComponents } from '../mesh/cut-components.ts';
import { curvesOfChain } from './curves-of-loop.ts';
import { endOf, propertiesOfCurves, reverseCurve, startOf, type PlaneCurve } from './plane-curves.ts';
import {
  boxPlanes,
  flushWithin,
  planeThroughAxis,
  quarterPlanes,
  slabPlanes,
  tiltPlane,
  type PlanePlace,
  type SectionPlane,
} from '../planes/section-plane.ts';
import { combineSections, sectionProperties } from '../section-properties.ts';
import type { CutPlane } from '../mesh/slice-mesh.ts';
import { arc, circle, line, placed, profile, Q } from '../../testing/plane-shapes.ts';

const near = (found: number, wanted: number, relative: number) =>
  expect(Math.abs(found / wanted - 1)).toBeLessThan(relative);

describe('figures of exact curves', () => {
  test('circle, ring, ellipse and half disc: closed forms to the last digits (Dubbel, section C)', () => {
    const ring = propertiesOfCurves([[circle([30, -7], 20)], [reverseCurve(circle([30, -7], 15))]])!;
    near(ring.area, Math.PI * 175, 1e-13);
    near(ring.perimeter, 70 * Math.PI, 1e-13);
    near(ring.polar, Q * (20 ** 4 - 15 ** 4), 1e-12);
    expect(ring.centroid[0]).toBeCloseTo(30, 11);
    const [a, b, tilt] = [9, 4, 0.6];
    const ellipse = propertiesOfCurves([
      [
        {
          shape: 'ellipse',
          centre: [5, 6],
          major: [a * Math.cos(tilt), a * Math.sin(tilt)],
          ratio: b / a,
          from: 0,
          to: 2 * Math.PI,
        },
      ],
    ])!;
    near(ellipse.area, Math.PI * a * b, 1e-13);
    near(ellipse.principal[0], (Math.PI * a ** 3 * b) / 4, 1e-12);
    near(ellipse.principal[1], (Math.PI * a * b ** 3) / 4, 1e-12);
    // The largest moment is the one about the short axis.
    expect(Math.abs(Math.sin(ellipse.principalAngle - tilt - Q))).toBeLessThan(1e-9);
    const half = propertiesOfCurves([[arc([0, 0], 10, 0, Math.PI), line([-10, 0], [10, 0])]])!;
    near(half.centroid[1], (4 * 10) / (3 * Math.PI), 1e-12);
    near(half.ix, (Math.PI / 8 - 8 / (9 * Math.PI)) * 1e4, 1e-11);
  });

  // Tables of EN 10056-1 (equal angle), UPE channels and EN 10210 tubes, from memory: cm², cm, cm⁴.
  test('an equal angle, a channel and a tube against the tables', () => {
    const angle = propertiesOfCurves([
      profile(
        [0, 0],
        [100, 0],
        arc([94, 4], 6, 0, Q),
        arc([22, 22], 12, -Q, -2 * Q),
        arc([4, 94], 6, 0, Q),
        [0, 100],
      ),
    ])!;
    near(angle.area / 100, 19.2, 3e-3);
    near(angle.centroid[0] / 10, 2.82, 3e-3);
    near(angle.ix / 1e4, 177, 3e-3);
    near(angle.principal[0] / 1e4, 280, 3e-3);
    near(angle.principal[1] / 1e4, 73, 3e-3);
    const [h, b, w, f, r] = [200, 80, 6, 11, 13];
    const channel = propertiesOfCurves([
      profile(
        [0, 0],
        [b, 0],
        [b, f],
        arc([w + r, f + r], r, -Q, -2 * Q),
        arc([w + r, h - f - r], r, 2 * Q, Q),
        [b, h - f],
        [b, h],
        [0, h],
      ),
    ])!;
    near(channel.area / 100, 29.0, 3e-3);
    near(channel.ix / 1e4, 1910, 3e-3);
    near(channel.iy / 1e4, 187, 4e-3);
    near(channel.centroid[0] / 10, 2.56, 3e-3);
    const tube = propertiesOfCurves([[circle([0, 0], 57.15)], [reverseCurve(circle([0, 0], 53.15))]])!;
    near(tube.area / 100, 13.9, 3e-3);
    near(tube.ix / 1e4, 211, 3e-3);
  });

  test('curves in any order and sense become loops, holes turned the other way', () => {
    const outline = profile([0, 0], [40, 0], arc([40, 10], 10, -Q, Q), [0, 20]);
    const hole = [arc([40, 10], 4, 0, Math.PI), arc([40, 10], 4, Math.PI, 2 * Math.PI)];
    const wanted = 800 + (Math.PI * 100) / 2 - 16 * Math.PI;
    fc.assert(
      fc.property(
        fc.shuffledSubarray([0, 1, 2, 3, 4, 5], { minLength: 6 }),
        fc.array(fc.boolean(), { minLength: 6, maxLength: 6 }),
        (order, turned) => {
          const all = [...outline, ...hole];
          const { loops, open } = chainCurves(
            order.map((i) => (turned[i] ? reverseCurve(all[i]) : all[i])),
            1e-6,
          );
          expect(open).toEqual([]);
          near(propertiesOfCurves(loops)!.area, wanted, 1e-12);
        },
      ),
    );
    expect(chainCurves(outline.slice(1), 1e-6).open).toHaveLength(1);
  });
});

describe('clipping a cut', () => {
  const star = (n: number, r: number, R: number): Point2[] =>
    Array.from({ length: 2 * n }, (_, i) => [
      (i % 2 ? r : R) * Math.cos((Math.PI * i) / n),
      (i % 2 ? r : R) * Math.sin((Math.PI * i) / n),
    ]);
  const half = fc
    .tuple(fc.double({ min: 0, max: 6.28, noNaN: true }), fc.double({ min: -12, max: 12, noNaN: true }))
    .map(([a, c]): HalfPlane => [Math.cos(a), Math.sin(a), c]);
  const other = ([a, b, c]: HalfPlane): HalfPlane => [-a, -b, -c];
  const area = (loops: Point2[][]) => sectionProperties(loops)?.area ?? 0;

  test('both sides of any line add up to the whole, of polygons and of curves, holes included', () => {
    const loops = [star(7, 4, 10), star(5, 1, 2).reverse()];
    const curves = [
      profile([-10, -8], [6, -8], arc([6, -2], 6, -Q, Q), [-10, 4]),
      [reverseCurve(circle([2, -2], 3))],
      [
        {
          shape: 'ellipse',
          centre: [-6, 9],
          major: [3, 1],
          ratio: 0.5,
          from: 0,
          to: 2 * Math.PI,
        } as PlaneCurve,
      ],
    ];
    const whole = [area(loops), propertiesOfCurves(curves)!.area];
    fc.assert(
      fc.property(half, (h) => {
        expect(
          Math.abs(area(clipLoops(loops, h)) + area(clipLoops(loops, other(h))) - whole[0]),
        ).toBeLessThan(1e-9);
        const [kept, taken] = [clipCurves(curves, h), clipCurves(curves, other(h))];
        expect(
          Math.abs((propertiesOfCurves(kept)?.area ?? 0) + (propertiesOfCurves(taken)?.area ?? 0) - whole[1]),
        ).toBeLessThan(1e-8);
        for (const loop of kept)
          loop.forEach((c, i) =>
            expect(
              length(
                subtract(
                  [...endOf(c), 0] as unknown as Vec3,
                  [...startOf(loop[(i + 1) % loop.length]), 0] as unknown as Vec3,
                ),
              ),
            ).toBeLessThan(1e-9),
          );
        for (const loop of clipLoops(loops, h))
          for (const [x, y] of loop) expect(h[0] * x + h[1] * y).toBeLessThan(h[2] + 1e-9);
      }),
    );
  });

  test('the drawing of a cut: seen from the removed side, the model’s up axis upwards, in models of either kind', () => {
    const unit = fc.double({ min: -1, max: 1, noNaN: true });
    fc.assert(
      fc.property(
        fc.tuple(unit, unit, unit).filter((v) => length(v) > 0.2),
        fc.constantFrom('y' as const, 'z' as const),
        (n, up) => {
          const normal = normalize(n);
          const { u, v } = planeFrame({ normal, constant: 3, up });
          const cross: Vec3 = [
            u[1] * v[2] - u[2] * v[1],
            u[2] * v[0] - u[0] * v[2],
            u[0] * v[1] - u[1] * v[0],
          ];
          expect(length(subtract(cross, normal))).toBeLessThan(1e-9);
          // A cut within 0.003° of level counts as level.
          expect(v[up === 'y' ? 1 : 2]).toBeGreaterThan(-1e-4);
          expect(Math.abs(u[up === 'y' ? 1 : 2])).toBeLessThan(1e-4);
        },
      ),
    );
    // From above the back is up: +Y where Z is up, −Z where Y is.
    expect(planeFrame({ normal: [0, 0, 1], constant: 0, up: 'z' }).v).toEqual([0, 1, 0]);
    expect(planeFrame({ normal: [0, 1, 0], constant: 0, up: 'y' }).v.map((x) => x + 0)).toEqual([0, 0, -1]);
  });

  test('a chain falls into its parts: both sides of any line add up to its length, and its ends stay its ends', () => {
    const chain = star(9, 3, 8).slice(0, -2);
    const lengthOf = (points: readonly Point2[]) =>
      points.slice(1).reduce((sum, p, i) => sum + Math.hypot(p[0] - points[i][0], p[1] - points[i][1]), 0);
    fc.assert(
      fc.property(half, (h) => {
        const by = ([a, b, c]: HalfPlane) =>
          cutChain(
            chain.map(([x, y]): Vec3 => [x, y, 0]),
            { combine: 'any', planes: [{ normal: [a, b, 0], constant: c }] },
          ).map((run) => run.map(([x, y]): Point2 => [x, y]));
        const [inside, outside] = [by(h), by(other(h))];
        expect([...inside, ...outside].reduce((sum, c) => sum + lengthOf(c), 0)).toBeCloseTo(
          lengthOf(chain),
          9,
        );
        for (const [x, y] of inside.flat()) expect(h[0] * x + h[1] * y).toBeLessThan(h[2] + 1e-9);
        expect([...inside, ...outside].some((c) => c[0][0] === chain[0][0] && c[0][1] === chain[0][1])).toBe(
          true,
        );
      }),
    );
    // A semicircle seen from its middle: an arc stays an arc, lines stay lines.
    const tray: Point2[] = [
      [-20, 10],
      [-20, 0],
      ...Array.from({ length: 19 }, (_, i): Point2 => [
        -10 * Math.cos((i * Math.PI) / 18),
        -10 * Math.sin((i * Math.PI) / 18),
      ]),
      [20, 0],
      [20, 5],
      [20, 10],
    ];
    expect(curvesOfChain(tray, 0.01).map((c) => c.shape)).toEqual(['line', 'line', 'arc', 'line', 'line']);
    expect(curvesOfChain(tray, 0.01)[2]).toMatchObject({
      radius: expect.closeTo(10, 9),
      centre: [expect.closeTo(0, 9), expect.closeTo(0, 9)],
    });
  });

  const cut = (
    part: PartGeometry,
    plane: CutPlane,
    others: CutPlane[] = [],
    combine: 'any' | 'all' = 'any',
  ) =>
    combineSections(cutComponents([placed(part)], plane, others, combine).flatMap((c) => c.properties ?? []))
      ?.area ?? 0;
  const planeOf = ({ origin, normal }: PlanePlace): CutPlane => ({ normal, constant: dot(origin, normal) });

  test('a box kept by six planes, a slab and a quarter cut leave the faces one computes by hand', () => {
    const part = boxPart(40, 40, 40);
    const six = boxPlanes({ min: [5, 10, 15], max: [25, 30, 35] }).map(planeOf);
    for (const plane of six)
      expect(
        cut(
          part,
          plane,
          six.filter((p) => p !== plane),
        ),
      ).toBeCloseTo(400, 6);
    const [front, back] = slabPlanes({ origin: [20, 20, 20], normal: [0, 0, 1] }, 6).map(planeOf);
    expect(front.constant + back.constant).toBeCloseTo(6, 12);
    expect(cut(part, front, [back])).toBeCloseTo(1600, 6);
    // Of the quarter that is removed each plane shows half: 20 × 40.
    const [a, b] = quarterPlanes([20, 20, 20], [1, 0, 0], [0, 1, 0]).map(planeOf);
    expect(cut(part, a, [b], 'all')).toBeCloseTo(800, 6);
    expect(cut(part, a, [b], 'any')).toBeCloseTo(800, 6);
    // Where all must remove, planes that face each other leave everything but what lies between them.
    expect(halfPlaneOf(front, back)).toBeNull();
    expect(halfPlaneOf(front, { ...back, constant: back.constant - 100 })).toBe('nothing');
  });

  test('a plane along a face, however the part lies: the face where material is left behind it, nothing where it is not', () => {
    const [size, part] = [[40, 25, 10] as const, boxPart(40, 25, 10)];
    const number = (most: number) => fc.double({ min: -most, max: most, noNaN: true });
    fc.assert(
      fc.property(
        fc.tuple(number(1), number(1), number(1)).filter((v) => length(v) > 0.2),
        number(3),
        fc.tuple(number(500), number(500), number(500)),
        fc.nat(2),
        fc.boolean(),
        number(1),
        (axis, angle, [x, y, z], k, far, noise) => {
          const turn = rotationAbout(normalize(axis), angle);
          const columns = [
            [1, 0, 0],
            [0, 1, 0],
            [0, 0, 1],
          ].map((e) => rotate(turn, toVec3(e)));
          const placement: Mat4 = [...columns[0], 0, ...columns[1], 0, ...columns[2], 0, x, y, z, 1];
          const input = placed(part, placement);
          const within = flushWithin(transformBox(placement, part.box));
          const outward = far ? columns[k] : scale(columns[k], -1);
          const at = transformPoint(placement, far ? map3(size, (s, i) => (i === k ? s : 0)) : [0, 0, 0]);
          // As far off as single precision may put it.
          const constant = dot(outward, at) + (noise * within) / 4;
          const area = (plane: CutPlane) =>
            combineSections(cutComponents([input], plane).flatMap((c) => c.properties ?? []))?.area ?? 0;
          expect(area({ normal: outward, constant, within })).toBeCloseTo(
            (size[0] * size[1] * size[2]) / size[k],
            3,
          );
          expect(area({ normal: scale(outward, -1), constant: -constant, within })).toBe(0);
        },
      ),
    );
  });

  test('a plane through an axis holds the axis at any angle; tilting keeps a point on the plane', () => {
    const unit = fc.double({ min: -1, max: 1, noNaN: true });
    const vector = fc
      .tuple(unit, unit, unit)
      .filter((v) => length(v) > 0.2)
      .map((v) => normalize(v));
    fc.assert(
      fc.property(vector, vector, fc.double({ min: -7, max: 7, noNaN: true }), (axis, eye, angle) => {
        const { normal } = planeThroughAxis([1, 2, 3], axis, angle, eye);
        expect(dot(normal, axis)).toBeCloseTo(0, 9);
        expect(length(normal)).toBeCloseTo(1, 9);
        const plane: SectionPlane = {
          id: '',
          name: '',
          origin: [1, 2, 3],
          normal,
          offset: 4,
          flipped: false,
          on: true,
        };
        const about: Vec3 = [1 + 4 * normal[0], 2 + 4 * normal[1], 3 + 4 * normal[2]];
        const tilted = tiltPlane(plane, about, axis, 0.3);
        expect(dot(subtract(about, tilted.origin), tilted.normal)).toBeCloseTo(4, 9);
        expect(dot(tilted.normal, normal)).toBeCloseTo(Math.cos(0.3), 9);
      }),
    );
  });
});
