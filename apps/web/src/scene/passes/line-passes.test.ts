import { shiftsFor } from './line-passes.ts';

test('wider lines are drawn at more places, within half their width', () => {
  expect(shiftsFor(1)).toEqual([[0, 0]]);
  for (const [x, y] of shiftsFor(3)) expect(Math.hypot(x, y)).toBeLessThanOrEqual(1 + 1e-9);
  expect(shiftsFor(4).length).toBeGreaterThan(shiftsFor(2).length);
});
