import { flatDimension, PAPER_SIZES } from './flat-dimension.ts';

const distance = (p: readonly number[], q: readonly number[]) => Math.hypot(p[0] - q[0], p[1] - q[1]);

test('a dimension lies away from the middle, its arrowheads meet the extension lines and are 15° wide (ISO 129-1)', () => {
  const { lines, arrows, text } = flatDimension([0, 0], [40, 30], [100, -100], PAPER_SIZES);
  // The far side of the line from the middle.
  expect((text[0] - 20) * -30 + (text[1] - 15) * 40).toBeGreaterThan(0);
  expect(distance(text, [20, 15])).toBeCloseTo(8, 12);
  for (const [k, end] of [
    [0, 0],
    [40, 30],
  ].entries()) {
    expect(distance(lines[k][0], end)).toBeCloseTo(1, 12);
    expect(distance(lines[k][1], end)).toBeCloseTo(10, 12);
    expect(distance(arrows[k][0], end)).toBeCloseTo(8, 12);
    const [tip, p, q] = arrows[k];
    const cosine =
      ((p[0] - tip[0]) * (q[0] - tip[0]) + (p[1] - tip[1]) * (q[1] - tip[1])) /
      distance(p, tip) /
      distance(q, tip);
    expect((Math.acos(cosine) * 180) / Math.PI).toBeCloseTo(15, 9);
    // Inwards: there is room.
    expect(distance(p, text)).toBeLessThan(25);
  }
  expect(distance(lines[2][0], lines[2][1])).toBeCloseTo(50, 12);
});

test('a short one has its arrowheads outside', () => {
  const { lines, arrows } = flatDimension([0, 0], [2, 0], [0, -9], PAPER_SIZES);
  expect(arrows[0][1][0]).toBeLessThan(0);
  expect(arrows[1][1][0]).toBeGreaterThan(2);
  expect(lines[2].map((p) => p[0])).toEqual([-5, 7]);
  expect(flatDimension([1, 1], [1, 1], [0, 0], PAPER_SIZES).text.every(Number.isFinite)).toBe(true);
});
