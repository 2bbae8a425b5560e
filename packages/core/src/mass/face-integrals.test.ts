import fc from 'fast-check';
import { addScaled, cross, dot, frameOf, normalize, scale, type Vec3 } from '../math/vec3.ts';
import type { BoundaryCurve } from './boundary-curve.ts';
import { integrateFace, type ParametricSurface } from './face-integrals.ts';
import { MOMENTS } from './line-sums.ts';
import { gaussLegendre } from './gauss-legendre.ts';
import { figuresOfMoments } from './sum-moments.ts';
import type { SplineSurface } from './splines.ts';

/*
 * Whole solids of elementary faces, each by its boundary alone. Closed forms of any handbook of mechanics
 * (Dubbel, section B).
 */

const TURN = 2 * Math.PI;
type Pair = readonly [number, number];
const line = (from: Pair, to: Pair): BoundaryCurve => ({ shape: 'line', from, to });
const rectangle = (u0: number, u1: number, v0: number, v1: number): BoundaryCurve[] => [
  line([u0, v0], [u1, v0]),
  line([u1, v0], [u1, v1]),
  line([u1, v1], [u0, v1]),
  line([u0, v1], [u0, v0]),
];
const circle = (radius: number, way: 1 | -1 = 1, centre: Pair = [0, 0]): BoundaryCurve => ({
  shape: 'conic',
  centre,
  a: [radius, 0],
  b: [0, radius],
  from: way > 0 ? 0 : TURN,
  to: way > 0 ? TURN : 0,
});

/** A surface at a place, its axis anywhere. */
const at = (
  kind: ParametricSurface['kind'],
  origin: Vec3,
  axis: Vec3,
  first = 0,
  second = 0,
): ParametricSurface => {
  const { u } = frameOf(axis);
  return { kind, origin, x: u, y: cross(axis, u), axis, first, second };
};
/** Sums of faces, each with +1 where its own normal looks outwards. */
function solid(
  faces: readonly (readonly [ParametricSurface, readonly BoundaryCurve[], 1 | -1])[],
  about: Vec3,
) {
  const moments = new Float64Array(MOMENTS);
  let area = 0;
  let within = 0;
  for (const [surface, boundary, sign] of faces) {
    const sums = integrateFace(surface, boundary, about);
    sums.moments.forEach((m, k) => (moments[k] += sign * m));
    area += Math.abs(sums.area);
    within += sums.volumeWithin;
  }
  return { ...figuresOfMoments(moments, about, within, { kind: 'exact' })!, area, within };
}

const axes = fc
  .tuple(...[0, 1, 2].map(() => fc.double({ min: -1, max: 1, noNaN: true })))
  .map(([x, y, z]): Vec3 => normalize([x, y, z + (z < 0 ? -0.1 : 0.1)]));
const place = fc
  .tuple(...[0, 1, 2].map(() => fc.double({ min: -50, max: 50, noNaN: true })))
  .map((p): Vec3 => [p[0], p[1], p[2]]);

/** Moments about an axis through the centre and across it. */
const along = ({ inertia }: { inertia: readonly Vec3[] }, a: Vec3): number =>
  inertia.reduce((sum, row, i) => sum + a[i] * dot(row, a), 0);

test('quadrature with n nodes is exact up to degree 2n − 1 and not beyond', () => {
  for (const n of [3, 6, 10, 28]) {
    const { nodes, weights } = gaussLegendre(n);
    const of = (degree: number) => nodes.reduce((sum, x, i) => sum + weights[i] * x ** degree, 0);
    expect(of(0)).toBeCloseTo(2, 13);
    expect(of(2 * n - 2)).toBeCloseTo(2 / (2 * n - 1), 13);
    if (n < 10) expect(Math.abs(of(2 * n) - 2 / (2 * n + 1))).toBeGreaterThan(1e-7);
  }
});

test('a cylinder with a bore, wherever it stands and leans: volume, area, centre, moments', () => {
  const [R, r, h] = [10, 4, 25];
  fc.assert(
    fc.property(place, axes, (origin, axis) => {
      const top = addScaled(origin, axis, h);
      const found = solid(
        [
          [at('cylinder', origin, axis, R), rectangle(0, TURN, 0, h), 1],
          [at('cylinder', origin, axis, r), rectangle(0, TURN, 0, h), -1],
          [at('plane', top, axis), [circle(R), circle(r, -1)], 1],
          [at('plane', origin, axis), [circle(R), circle(r, -1)], -1],
        ],
        addScaled(origin, axis, h / 2),
      );
      const volume = Math.PI * (R * R - r * r) * h;
      expect(found.volume / volume).toBeCloseTo(1, 12);
      expect(found.area).toBeCloseTo(TURN * (R + r) * h + TURN * (R * R - r * r), 8);
      addScaled(origin, axis, h / 2).forEach((x, k) => expect(found.centreOfGravity[k]).toBeCloseTo(x, 9));
      expect(along(found, axis) / ((volume * (R * R + r * r)) / 2)).toBeCloseTo(1, 11);
      const across = frameOf(axis).u;
      expect(along(found, across) / ((volume * (3 * (R * R + r * r) + h * h)) / 12)).toBeCloseTo(1, 11);
      expect(found.within).toBeLessThan(1e-9 * volume);
    }),
  );
});

test('sphere, torus and frustum; about any point, and in a left-handed frame with the boundary turned', () => {
  fc.assert(
    fc.property(place, axes, place, (origin, axis, about) => {
      const ball = solid(
        [[at('sphere', origin, axis, 7), rectangle(0, TURN, -Math.PI / 2, Math.PI / 2), 1]],
        about,
      );
      expect(ball.volume / ((4 / 3) * Math.PI * 343)).toBeCloseTo(1, 11);
      expect(ball.area / (4 * Math.PI * 49)).toBeCloseTo(1, 12);
      expect(along(ball, axis) / ((2 / 5) * ball.volume * 49)).toBeCloseTo(1, 7);
      const [R, r] = [20, 4];
      const ring = solid([[at('torus', origin, axis, R, r), rectangle(0, TURN, 0, TURN), 1]], about);
      expect(ring.volume / (2 * Math.PI ** 2 * R * r * r)).toBeCloseTo(1, 11);
      expect(along(ring, axis) / (ring.volume * (R * R + (3 / 4) * r * r))).toBeCloseTo(1, 8);
      // A frustum of radii 5 and 2, 10 high: the slant opens downwards.
      const half = Math.atan(3 / 10);
      const slant = Math.hypot(3, 10);
      const down = scale(axis, -1);
      const base = at('plane', addScaled(origin, down, 10), down);
      const faces = [
        [at('cone', origin, down, 2, half), rectangle(0, TURN, 0, slant), 1],
        [base, [circle(5)], 1],
        [at('plane', origin, axis), [circle(2)], 1],
      ] as const;
      const frustum = solid(faces, about);
      expect(frustum.volume / ((Math.PI * 10 * (25 + 10 + 4)) / 3)).toBeCloseTo(1, 11);
      // Mirrored in its own frame: the parameters run the other way round, and so does the normal.
      const left: ParametricSurface = { ...base, y: scale(base.y, -1) };
      expect(integrateFace(left, [circle(5)], about).moments[0]).toBeCloseTo(
        -integrateFace(base, [circle(5)], about).moments[0],
        8,
      );
    }),
    { numRuns: 40 },
  );
});

test('a plane bounded by a curve that is only known by its points and slopes: the ellipse it is', () => {
  const surface = at('plane', [3, 4, 5], [0, 0, 1]);
  const [a, b] = [9, 4];
  const free: BoundaryCurve = {
    shape: 'free',
    from: 0,
    to: TURN,
    at: (t) => [a * Math.cos(t), b * Math.sin(t), -a * Math.sin(t), b * Math.cos(t)],
    breaks: [1, 2, 5],
  };
  const found = integrateFace(surface, [free], [0, 0, 0]);
  expect(found.area).toBeCloseTo(Math.PI * a * b, 9);
  expect(found.moments[0]).toBeCloseTo((5 * Math.PI * a * b) / 3, 8);
  const exact = integrateFace(
    surface,
    [{ shape: 'conic', centre: [0, 0], a: [a, 0], b: [0, b], from: 0, to: TURN }],
    [0, 0, 0],
  );
  exact.moments.forEach((m, k) => expect(found.moments[k] / m).toBeCloseTo(1, 10));
  expect(found.areaWithin).toBeLessThan(1e-7);
});

test('a bound is one: what quadrature leaves of a rough boundary is within it', () => {
  // A boundary with a kink that its halves do not know of.
  const kink = (t: number): number => Math.abs(t - 0.3217);
  const rough: BoundaryCurve[] = [
    line([0, 0], [1, 0]),
    { shape: 'free', from: 0, to: 1, at: (t) => [1 + kink(t), t, Math.sign(t - 0.3217), 1] },
    line([1 + kink(1), 1], [0, 1]),
    line([0, 1], [0, 0]),
  ];
  const { area, areaWithin } = integrateFace(at('plane', [0, 0, 1], [0, 0, 1]), rough, [0, 0, 0]);
  const truth = 1 + (0.3217 ** 2 + (1 - 0.3217) ** 2) / 2;
  expect(Math.abs(area - truth)).toBeLessThan(areaWithin);
  expect(Math.abs(area - truth)).toBeLessThan(1e-3);
});

/** A quarter of a cylinder as a rational quadratic (The NURBS Book, example 7.1), r = 5, 12 high. */
const quarter: SplineSurface = {
  u: { degree: 2, knots: Float64Array.of(0, 0, 0, 1, 1, 1) },
  v: { degree: 1, knots: Float64Array.of(0, 0, 12, 12) },
  poles: Float64Array.of(5, 0, 0, 5, 0, 12, 5, 5, 0, 5, 5, 12, 0, 5, 0, 0, 5, 12),
  weights: Float64Array.of(1, 1, Math.SQRT1_2, Math.SQRT1_2, 1, 1),
};

test('a spline is integrated as what it is: a quarter of a cylinder', () => {
  const surface = { kind: 'spline', spline: quarter } as const;
  const found = integrateFace(surface, rectangle(0, 1, 0, 12), [0, 0, 0]);
  expect(found.area / ((Math.PI / 2) * 5 * 12)).toBeCloseTo(1, 11);
  // The cone from the origin: a third of r times the area, for the normal is the radius.
  expect(found.moments[0] / ((5 * (Math.PI / 2) * 5 * 12) / 3)).toBeCloseTo(1, 11);
  const same = integrateFace(
    { ...at('cylinder', [0, 0, 0], [0, 0, 1], 5), x: [1, 0, 0], y: [0, 1, 0] },
    rectangle(0, Math.PI / 2, 0, 12),
    [0, 0, 0],
  );
  same.moments.forEach((m, k) => expect(found.moments[k] / m).toBeCloseTo(1, 10));
});
