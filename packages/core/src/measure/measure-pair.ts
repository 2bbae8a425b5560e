import type { Accuracy } from '../geometry/accuracy.ts';
import type { Fact } from '../facts/describe-pick.ts';
import { MEASURED_SAME } from '../tolerances.ts';
import { angleShape, type DimensionShape } from './dimension-shape.ts';
import { MEASURED_KINDS, type MeasuredShape } from './measured-shape.ts';
import { one, rule, type PairRule } from './pair-rule.ts';
import { ROUND_RULES } from './round-rules.ts';
import { STRAIGHT_RULES } from './straight-rules.ts';

/**
 * What two things measure: the engineer's figure first. The least distance between them stands beneath
 * whatever they are.
 */
export interface PairFigures {
  /** Which case of the table it is. */
  case: string;
  /** null where the least distance itself leads. */
  lead: Fact | null;
  rows: Fact[];
  accuracy: Accuracy;
  /** What the leading figure is drawn as. */
  dimension: DimensionShape | null;
}

/** All pairs, in order; what the table in the documents is made of. */
export const PAIR_RULES: readonly PairRule[] = [
  ...STRAIGHT_RULES,
  ...ROUND_RULES,
  ...(['free', 'solid'] as const).flatMap((last) =>
    MEASURED_KINDS.slice(0, MEASURED_KINDS.indexOf(last) + 1).map((first) =>
      rule([first, last], one(last === 'solid' ? 'Gap' : 'Least distance'), () => ({
        case: 'any',
        lead: null,
      })),
    ),
  ),
];

/**
 * What two things measure. The rule of their kinds decides; figures are the same whichever was picked first,
 * but for the sign of a distance to a plane, which is that of its outward normal.
 * @param within mm: what counts as the same place (the file's own uncertainty); deviations of recognised
 * shapes come on top
 */
export function measurePair(a: MeasuredShape, b: MeasuredShape, within = MEASURED_SAME): PairFigures {
  const straight = PAIR_RULES.find((p) => p.of[0] === a.kind && p.of[1] === b.kind);
  const found = straight ?? PAIR_RULES.find((p) => p.of[0] === b.kind && p.of[1] === a.kind)!;
  const [first, second] = straight ? [a, b] : [b, a];
  const deviations = [a, b].flatMap(({ accuracy }) =>
    accuracy.kind === 'recognised' ? [accuracy.deviation] : [],
  );
  const {
    lead,
    rows = [],
    dimension = null,
    ...rest
  } = found.measure(first, second, within + deviations.reduce((sum, d) => sum + d, 0));
  return {
    case: rest.case,
    lead,
    rows,
    dimension: dimension
      ? { kind: 'dimension', ends: dimension }
      : lead?.value.kind === 'angle'
        ? angleShape(first, second, lead.value.value)
        : null,
    accuracy: deviations.length
      ? { kind: 'recognised', deviation: Math.max(...deviations) }
      : { kind: 'exact' },
  };
}
