import fc from 'fast-check';
import { gaussLegendre, leftBy, type Quadrature } from './gauss-legendre.ts';

const applied = ({ nodes, weights }: Quadrature, f: (x: number) => number) =>
  nodes.reduce((sum, x, i) => sum + weights[i] * f(x), 0);
const left = (rule: Quadrature, f: (x: number) => number) =>
  leftBy(rule, Float64Array.from(rule.nodes, f), 0, 1);

/* Integrals over [−1, 1] in closed form (any table of integrals). */
const FAMILIES: readonly (readonly [
  string,
  fc.Arbitrary<number>,
  (a: number, x: number) => number,
  (a: number) => number,
])[] = [
  [
    'e^ax',
    fc.double({ min: 0.1, max: 12, noNaN: true }),
    (a, x) => Math.exp(a * x),
    (a) => (2 * Math.sinh(a)) / a,
  ],
  [
    'cos ax + sin ax',
    fc.double({ min: 0.1, max: 14, noNaN: true }),
    (a, x) => Math.cos(a * x) + Math.sin(a * x),
    (a) => (2 * Math.sin(a)) / a,
  ],
  [
    'a pole beside the interval',
    fc.double({ min: 1.01, max: 5, noNaN: true }),
    (a, x) => 1 / (a - x),
    (a) => Math.log((a + 1) / (a - 1)),
  ],
  [
    'poles above and below it',
    fc.double({ min: 0.15, max: 4, noNaN: true }),
    (a, x) => 1 / (a * a + x * x),
    (a) => (2 * Math.atan(1 / a)) / a,
  ],
  [
    'a root whose slope has no end',
    fc.double({ min: 1.0001, max: 3, noNaN: true }),
    (a, x) => Math.sqrt(a - x),
    (a) => (2 / 3) * ((a + 1) ** 1.5 - (a - 1) ** 1.5),
  ],
  ['a kink', fc.double({ min: -0.9, max: 0.9, noNaN: true }), (a, x) => Math.abs(x - a), (a) => 1 + a * a],
];

test.each(FAMILIES)(
  '%s: what a rule leaves is within what is judged from the fall of its coefficients',
  (_, parameters, f, truth) => {
    for (const n of [7, 10, 12, 16]) {
      const rule = gaussLegendre(n);
      fc.assert(
        fc.property(parameters, (a) => {
          const off = Math.abs(applied(rule, (x) => f(a, x)) - truth(a));
          expect(off).toBeLessThanOrEqual(left(rule, (x) => f(a, x)) + 1e-13 * Math.max(1, truth(a)));
        }),
        { numRuns: 60 },
      );
    }
  },
);

test('of a polynomial that the rule sees whole nothing is left; a smooth one is not called rough', () => {
  const rule = gaussLegendre(12);
  expect(left(rule, (x) => 3 * x ** 5 - x + 2)).toBeLessThan(1e-13);
  expect(left(rule, (x) => Math.exp(x))).toBeLessThan(1e-13);
  expect(left(rule, () => 0)).toBe(0);
  expect(left(rule, Math.abs)).toBeGreaterThan(1e-3);
});
