/**
 * How good a figure is: read from the boundary representation, or recognised in a free-form
 * shape within `deviation` mm.
 */
export type Accuracy = { kind: 'exact' } | { kind: 'recognised'; deviation: number };

/**
 * How good a sum over a shape is: exact; along free curves that are followed in short straight pieces
 * (`followed`); summed exactly over faces that do not quite meet (`slits`); summed over triangles (`mesh`);
 * or an estimate, where a second way does not agree. `within` is relative, and a bound
 * unless it is an estimate.
 */
export type SumAccuracy =
  { kind: 'exact' } | { kind: 'followed' | 'slits' | 'mesh' | 'estimate'; within: number };

const WORSE: readonly SumAccuracy['kind'][] = ['exact', 'followed', 'slits', 'mesh', 'estimate'];

/** That of a sum: the worst kind, within the most. */
export const worstOf = (all: readonly SumAccuracy[]): SumAccuracy => all.reduce(worse, { kind: 'exact' });

function worse(a: SumAccuracy, b: SumAccuracy): SumAccuracy {
  const kind = WORSE[Math.max(WORSE.indexOf(a.kind), WORSE.indexOf(b.kind))];
  return kind === 'exact' ? { kind } : { kind, within: Math.max(withinOf(a), withinOf(b)) };
}

/** Relative; 0 of what is exact. */
export const withinOf = (accuracy: SumAccuracy): number => (accuracy.kind === 'exact' ? 0 : accuracy.within);
