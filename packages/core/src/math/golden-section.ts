/** Each interval's share of the one before. */
const GOLDEN = (Math.sqrt(5) - 1) / 2;

/**
 * Where a function with one highest place between two others has it, and how high that is (golden section).
 */
export function highestBetween(
  of: (t: number) => number,
  low: number,
  high: number,
  steps: number,
): { at: number; value: number } {
  let [p, q] = [high - GOLDEN * (high - low), low + GOLDEN * (high - low)];
  let [atP, atQ] = [of(p), of(q)];
  for (let step = 0; step < steps; step++)
    if (atP >= atQ) {
      [high, q, atQ] = [q, p, atP];
      p = high - GOLDEN * (high - low);
      atP = of(p);
    } else {
      [low, p, atP] = [p, q, atQ];
      q = low + GOLDEN * (high - low);
      atQ = of(q);
    }
  return atP >= atQ ? { at: p, value: atP } : { at: q, value: atQ };
}
