import type { Accuracy } from '../geometry/accuracy.ts';
import type { Fact } from '../facts/describe-pick.ts';
import { addScaled, distance, scale, subtract, type Vec3 } from '../math/vec3.ts';
import { COMPUTED_SAME, MEASURED_SAME } from '../tolerances.ts';
import { angleShape, type DimensionShape } from './dimension-shape.ts';
import { MEASURED_KINDS, type MeasuredShape } from './measured-shape.ts';
import { one, rule, type PairRule } from './pair-rule.ts';
import { footOnLine } from './relations.ts';
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
    rows: dimension ? rows.map((row) => betweenWalls(row, dimension, [first, second])) : rows,
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

/**
 * A length from wall to wall, or over walls, with its two places: on the line of the leading figure, where
 * its ends are centres or axes, at the radius of each. None where no such places are as far apart as it says.
 */
function betweenWalls(
  row: Fact,
  [from, to]: readonly [Vec3, Vec3],
  shapes: readonly [MeasuredShape, MeasuredShape],
): Fact {
  const apart = distance(from, to);
  if (row.value.kind !== 'length' || !(apart > 0)) return row;
  const way = scale(subtract(to, from), 1 / apart);
  const [a, b] = [from, to].map((p) => Math.max(0, ...shapes.map((s) => radiusAbout(p, s))));
  const wanted = row.value.value;
  for (const [one, other] of [
    [a, -b],
    [a, b],
    [-a, -b],
    [-a, b],
  ])
    if (Math.abs(Math.abs(apart + other - one) - wanted) <= COMPUTED_SAME * (apart + a + b))
      return { ...row, ends: [addScaled(from, way, one), addScaled(to, way, other)] };
  return row;
}

/** Radius of a round shape whose centre or axis goes through a point, else 0; mm. */
function radiusAbout(p: Vec3, shape: MeasuredShape): number {
  if (!('radius' in shape) || shape.radius === null) return 0;
  const middle = shape.kind === 'turned' ? footOnLine(p, shape) : shape.origin;
  return distance(p, middle) <= MEASURED_SAME ? shape.radius : 0;
}
