import fc from 'fast-check';
import {
  breaksOf,
  curveEvaluator,
  isPolynomialAlongU,
  surfaceEvaluator,
  type SplineSurface,
} from './splines.ts';

/** A half circle of radius 1 as two rational quadratics (The NURBS Book, section 7.3). */
const half = {
  basis: { degree: 2, knots: Float64Array.of(0, 0, 0, 0.5, 0.5, 1, 1, 1) },
  poles: Float64Array.of(1, 0, 1, 1, 0, 1, -1, 1, -1, 0),
  weights: Float64Array.of(1, Math.SQRT1_2, 1, Math.SQRT1_2, 1),
};

test('a half circle lies on its circle and runs along it, at its knots and ends too', () => {
  const at = curveEvaluator(half);
  for (const t of [0, 0.1, 0.25, 0.4999, 0.5, 0.7, 1]) {
    const [x, y, dx, dy] = at(t);
    expect(Math.hypot(x, y)).toBeCloseTo(1, 14);
    expect(x * dx + y * dy).toBeCloseTo(0, 12);
    expect(Math.hypot(dx, dy)).toBeGreaterThan(1);
  }
  expect(breaksOf(half.basis)).toEqual([0, 0.5, 1]);
});

const surface = fc
  .record({
    degreeU: fc.integer({ min: 1, max: 4 }),
    degreeV: fc.integer({ min: 1, max: 4 }),
    inner: fc.integer({ min: 0, max: 3 }),
    rational: fc.boolean(),
  })
  .chain(({ degreeU, degreeV, inner, rational }) => {
    const knots = (degree: number) =>
      Float64Array.from([
        ...Array<number>(degree + 1).fill(0),
        ...Array.from({ length: inner }, (_, i) => (i + 1) / (inner + 1)),
        ...Array<number>(degree + 1).fill(1),
      ]);
    const count = (degreeU + inner + 1) * (degreeV + inner + 1);
    return fc.record({
      u: fc.constant({ degree: degreeU, knots: knots(degreeU) }),
      v: fc.constant({ degree: degreeV, knots: knots(degreeV) }),
      poles: fc
        .array(fc.double({ min: -9, max: 9, noNaN: true }), { minLength: 3 * count, maxLength: 3 * count })
        .map((p) => Float64Array.from(p)),
      weights: rational
        ? fc
            .array(fc.double({ min: 0.2, max: 3, noNaN: true }), { minLength: count, maxLength: count })
            .map((w): Float64Array | null => Float64Array.from(w))
        : fc.constant(null),
    });
  });

const share = fc.double({ min: 0.01, max: 0.99, noNaN: true });

test('slopes are those of differences; a surface moves with its poles and stays among them', () => {
  fc.assert(
    fc.property(surface, share, share, (spline: SplineSurface, s, t) => {
      const at = surfaceEvaluator(spline);
      const [here, right, left, above, below] = Array.from({ length: 5 }, () => new Float64Array(9));
      at(s, t, here);
      const step = 1e-6;
      // Beside a knot the slope of a straight piece jumps.
      if (
        breaksOf(spline.u).some((k) => Math.abs(k - s) < 2 * step) ||
        breaksOf(spline.v).some((k) => Math.abs(k - t) < 2 * step)
      )
        return;
      at(s + step, t, right);
      at(s - step, t, left);
      at(s, t + step, above);
      at(s, t - step, below);
      for (let k = 0; k < 3; k++) {
        expect((right[k] - left[k]) / (2 * step)).toBeCloseTo(here[3 + k], 2);
        expect((above[k] - below[k]) / (2 * step)).toBeCloseTo(here[6 + k], 2);
        const among = Array.from(spline.poles).filter((_, i) => i % 3 === k);
        expect(here[k]).toBeGreaterThanOrEqual(Math.min(...among) - 1e-9);
        expect(here[k]).toBeLessThanOrEqual(Math.max(...among) + 1e-9);
      }
      const moved = new Float64Array(9);
      surfaceEvaluator({ ...spline, poles: spline.poles.map((x) => x + 100) })(s, t, moved);
      for (let k = 0; k < 9; k++) expect(moved[k]).toBeCloseTo(here[k] + (k < 3 ? 100 : 0), 8);
    }),
  );
});

test('along a parameter with even weights a surface is polynomial', () => {
  const even: SplineSurface = {
    u: { degree: 1, knots: Float64Array.of(0, 0, 1, 1) },
    v: { degree: 1, knots: Float64Array.of(0, 0, 1, 1) },
    poles: new Float64Array(12),
    weights: Float64Array.of(1, 2, 1, 2),
  };
  expect(isPolynomialAlongU(even)).toBe(true);
  expect(isPolynomialAlongU({ ...even, weights: Float64Array.of(1, 2, 1, 3) })).toBe(false);
  expect(isPolynomialAlongU({ ...even, weights: null })).toBe(true);
});
