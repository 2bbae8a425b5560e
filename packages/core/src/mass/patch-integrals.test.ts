import fc from 'fast-check';
import type { BoundaryCurve } from './boundary-curve.ts';
import { gaussLegendre } from './gauss-legendre.ts';
import { integratePatch } from './patch-integrals.ts';
import { patchOfSpline } from './patch.ts';
import { breaksOf, surfaceEvaluator, type SplineSurface } from './splines.ts';

/*
 * Trimmed B-spline faces against quadrature over their own region in polar coordinates, which knows nothing
 * of knots, columns or Green's theorem.
 */

const TURN = 2 * Math.PI;
const CENTRE = [0.45, 0.52] as const;

const knots = (degree: number, inner: readonly number[]) =>
  Float64Array.from([...Array<number>(degree + 1).fill(0), ...inner, ...Array<number>(degree + 1).fill(1)]);

/** A bulging sheet over the unit square, of several pieces, its poles shaken. */
const sheet = fc
  .record({
    degrees: fc.tuple(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 1, max: 4 })),
    inner: fc.constantFrom([], [0.4], [0.3, 0.5, 0.7]),
    rational: fc.boolean(),
  })
  .chain(({ degrees: [p, q], inner, rational }) => {
    const [rows, columns] = [p + inner.length + 1, q + inner.length + 1];
    return fc
      .array(fc.double({ min: -1, max: 1, noNaN: true }), {
        minLength: 4 * rows * columns,
        maxLength: 4 * rows * columns,
      })
      .map((shakes): SplineSurface => ({
        u: { degree: p, knots: knots(p, inner) },
        v: { degree: q, knots: knots(q, inner) },
        poles: Float64Array.from({ length: 3 * rows * columns }, (_, at) => {
          const [k, pole] = [at % 3, Math.floor(at / 3)];
          const [i, j] = [Math.floor(pole / columns) / (rows - 1), (pole % columns) / (columns - 1)];
          return [10 * i, 8 * j, 3 + 4 * i * (1 - j)][k] + shakes[at] / 3;
        }),
        weights: rational
          ? Float64Array.from({ length: rows * columns }, (_, i) => 1 + shakes[3 * rows * columns + i] / 3)
          : null,
      }));
  });

/** Radius of the region round its centre, and its slope. */
const radius = (t: number) => 0.3 + 0.05 * Math.cos(3 * t);
const slope = (t: number) => -0.15 * Math.sin(3 * t);
const round: BoundaryCurve = {
  shape: 'free',
  from: 0,
  to: TURN,
  breaks: [0, 1, 2, 3, 4, 5, 6],
  at: (t) => {
    const [r, d, c, s] = [radius(t), slope(t), Math.cos(t), Math.sin(t)];
    return [CENTRE[0] + r * c, CENTRE[1] + r * s, d * c - r * s, d * s + r * c];
  },
};

/** x·N and |N| at a place. */
function integrands(spline: SplineSurface) {
  const evaluate = surfaceEvaluator(spline);
  const at = new Float64Array(9);
  return (u: number, v: number): [number, number] => {
    evaluate(u, v, at);
    const n = [at[4] * at[8] - at[5] * at[7], at[5] * at[6] - at[3] * at[8], at[3] * at[7] - at[4] * at[6]];
    return [at[0] * n[0] + at[1] * n[1] + at[2] * n[2], Math.hypot(...n)];
  };
}

/**
 * Rings of many thin pieces by the rule of six nodes; pieces that a knot crosses are off by
 * part of what lies in them.
 */
function polar(spline: SplineSurface, pieces: number): [volume: number, area: number] {
  const of = integrands(spline);
  const { nodes, weights } = gaussLegendre(6);
  let [volume, area] = [0, 0];
  for (let i = 0; i < pieces; i++)
    for (let j = 0; j < pieces; j++)
      nodes.forEach((x, a) =>
        nodes.forEach((y, b) => {
          const t = (TURN * (i + (x + 1) / 2)) / pieces;
          const share = (j + (y + 1) / 2) / pieces;
          const weight = (weights[a] * weights[b] * TURN * share * radius(t) ** 2) / (4 * pieces * pieces);
          const [flux, here] = of(
            CENTRE[0] + share * radius(t) * Math.cos(t),
            CENTRE[1] + share * radius(t) * Math.sin(t),
          );
          volume += weight * flux;
          area += weight * here;
        }),
      );
  return [volume / 3, area];
}

test('a sheet trimmed by a curve across its knots: as polar quadrature has it, and the same with its parameters exchanged', () => {
  fc.assert(
    fc.property(sheet, (spline) => {
      const [volume, area] = polar(spline, 24);
      const smooth = breaksOf(spline.u).length === 2;
      const found = integratePatch(patchOfSpline(spline, [0, 0, 0]), [round]);
      expect(Math.abs(found.area / area - 1)).toBeLessThan(smooth ? 1e-8 : 2e-3);
      expect(Math.abs(found.moments[0] - volume) / area).toBeLessThan(smooth ? 1e-8 : 1e-2);
      expect(found.areaWithin).toBeLessThan(1e-7 * area);
      const [rows, columns] = [
        spline.u.knots.length - spline.u.degree - 1,
        spline.v.knots.length - spline.v.degree - 1,
      ];
      const turned = {
        u: spline.v,
        v: spline.u,
        poles: Float64Array.from(spline.poles, (_, at) => {
          const [k, pole] = [at % 3, Math.floor(at / 3)];
          return spline.poles[3 * ((pole % rows) * columns + Math.floor(pole / rows)) + k];
        }),
        weights:
          spline.weights &&
          spline.weights.map((_, at) => spline.weights![(at % rows) * columns + Math.floor(at / rows)]),
      };
      const mirrored: BoundaryCurve = {
        ...round,
        at: (t) => {
          const [u, v, du, dv] = round.at(t);
          return [v, u, dv, du];
        },
      };
      const other = integratePatch(patchOfSpline(turned, [0, 0, 0]), [mirrored]);
      expect(other.area / -found.area).toBeCloseTo(1, 8);
      other.moments.forEach((m, k) =>
        expect(Math.abs(m - found.moments[k])).toBeLessThan(1e-8 * area * 20 ** 3),
      );
    }),
    { numRuns: 25 },
  );
});

test('a quarter of a cylinder is what it is however it is cut up: whole, by lines along its parameters, and with a window', () => {
  // x = cos, y = sin as a rational quadratic (The NURBS Book, section 7.3), five long.
  const cylinder: SplineSurface = {
    u: { degree: 1, knots: Float64Array.of(0, 0, 5, 5) },
    v: { degree: 2, knots: Float64Array.of(0, 0, 0, 1, 1, 1) },
    poles: Float64Array.of(1, 0, 0, 1, 1, 0, 0, 1, 0, 1, 0, 5, 1, 1, 5, 0, 1, 5),
    weights: Float64Array.of(1, Math.SQRT1_2, 1, 1, Math.SQRT1_2, 1),
  };
  const box = (u0: number, u1: number, v0: number, v1: number, way: 1 | -1 = 1): BoundaryCurve[] => {
    const corners = [
      [u0, v0],
      [u1, v0],
      [u1, v1],
      [u0, v1],
    ] as [number, number][];
    if (way < 0) corners.reverse();
    return corners.map((from, i) => ({ shape: 'line', from, to: corners[(i + 1) % 4] }));
  };
  const area = (boundary: readonly BoundaryCurve[]) =>
    Math.abs(integratePatch(patchOfSpline(cylinder, [0, 0, 0]), boundary).area);
  expect(area(box(0, 5, 0, 1))).toBeCloseTo((5 * Math.PI) / 2, 12);
  // By symmetry half a turn of the parameter is half of the quarter.
  expect(area(box(1, 3, 0, 0.5))).toBeCloseTo((2 * Math.PI) / 4, 12);
  expect(area([...box(0, 5, 0, 1), ...box(1, 3, 0, 0.5, -1)])).toBeCloseTo(
    (4.5 * Math.PI) / 2 - Math.PI / 4,
    12,
  );
  // Noise on a line along a parameter costs nothing of it.
  const noisy = box(0, 5, 0, 1);
  noisy[1] = {
    shape: 'free',
    from: 0,
    to: 1,
    at: (t) => [5 + 1e-13 * Math.sin(40 * t), t, 4e-12 * Math.cos(40 * t), 1],
  };
  expect(area(noisy)).toBeCloseTo((5 * Math.PI) / 2, 11);
});
