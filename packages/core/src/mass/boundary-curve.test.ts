import fc from 'fast-check';
import { cutAt, piecesOf, placeOn, rangeOf, type BoundaryCurve } from './boundary-curve.ts';

/** Added to, −0 is 0: Jest tells them apart, lengths and angles do not. */
const number = fc.double({ min: -9, max: 9, noNaN: true }).map((x) => x + 0);
const pair = fc.tuple(number, number);
const curve: fc.Arbitrary<BoundaryCurve> = fc.oneof(
  fc.record({ shape: fc.constant('line' as const), from: pair, to: pair }),
  fc.record({
    shape: fc.constant('conic' as const),
    centre: pair,
    a: pair,
    b: pair,
    from: number,
    to: number,
  }),
  fc
    .record({ from: number, to: number, breaks: fc.array(number, { maxLength: 6 }) })
    .map((range): BoundaryCurve => ({
      shape: 'free',
      ...range,
      at: (t) => [t ** 3, Math.sin(t), 3 * t * t, Math.cos(t)],
    })),
);

test('the pieces of a curve lead from its beginning to its end, in its direction and without a gap', () => {
  fc.assert(
    fc.property(curve, (c) => {
      const [from, to] = rangeOf(c);
      const pieces = piecesOf(c);
      expect(pieces[0][0]).toBe(from);
      expect(pieces[pieces.length - 1][1]).toBe(to);
      pieces.slice(1).forEach(([start], i) => expect(start).toBe(pieces[i][1]));
      for (const [start, end] of pieces)
        expect(Math.sign(end - start) * Math.sign(to - from)).toBeGreaterThanOrEqual(0);
      if (c.shape === 'conic')
        for (const [start, end] of pieces)
          expect(Math.abs(end - start)).toBeLessThanOrEqual(Math.PI / 2 + 1e-12);
    }),
  );
});

test('derivatives are those of differences', () => {
  fc.assert(
    fc.property(curve, fc.double({ min: 0.1, max: 0.9, noNaN: true }), (c, share) => {
      const [from, to] = rangeOf(c);
      const at = placeOn(c);
      const t = from + share * (to - from);
      const [before, here, after] = [t - 1e-5, t, t + 1e-5].map(at);
      for (const k of [0, 1]) expect((after[k] - before[k]) / 2e-5).toBeCloseTo(here[2 + k], 4);
    }),
  );
});

test('a way is cut at what lies within it, once each, and not at its ends', () => {
  expect(cutAt([3, 1, 2, 2, 0, 4, 9], 0, 4)).toEqual([
    [0, 1],
    [1, 2],
    [2, 3],
    [3, 4],
  ]);
  expect(cutAt([1, 2], 3, 0)).toEqual([
    [3, 2],
    [2, 1],
    [1, 0],
  ]);
  expect(cutAt([], 5, 5)).toEqual([[5, 5]]);
});
