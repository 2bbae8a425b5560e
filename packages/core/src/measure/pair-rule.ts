import type { Fact, FactValue } from '../facts/describe-pick.ts';
import { distance, dot, subtract, type Vec3 } from '../math/vec3.ts';
import { MEASURED_SAME } from '../tolerances.ts';
import type { MeasuredKind, MeasuredShape, Shape } from './measured-shape.ts';
import { angleOfLines, footOnLine, nearestOfLines, parallel, type Judged, type LineOf } from './relations.ts';

/** What a case gives: labels as they are shown. */
export interface PairCase {
  /** When, in words. */
  when: string;
  leads: string;
  beneath: readonly string[];
}

export interface Found {
  case: string;
  lead: Fact | null;
  rows?: Fact[];
  dimension?: readonly [Vec3, Vec3];
}

export interface PairRule {
  of: readonly [MeasuredKind, MeasuredKind];
  cases: Readonly<Record<string, PairCase>>;
  measure: (a: MeasuredShape, b: MeasuredShape, within: number) => Found;
}

export const fact = (
  label: string,
  kind: 'length' | 'angle',
  value: number,
  note?: string,
  prefix?: string,
): Fact => ({
  label,
  value: { kind, value, ...(prefix && { prefix }) },
  ...(note && { note }),
});
export const at = (label: string, value: Vec3, note?: string): Fact => ({
  label,
  value: { kind: 'point', value },
  ...(note && { note }),
});
export const says = (label: string, value: string): Fact => ({
  label,
  value: { kind: 'text', value } as FactValue,
});

const MICROMETRE = 1000;
const degrees = (angle: number): string => `${Number(((angle * 180) / Math.PI).toPrecision(2))}°`;
const micrometres = (mm: number): string => `${Number((mm * MICROMETRE).toPrecision(2))} µm`;

/** "nearly parallel, 0.003° off": what is said of a relation that is not exactly so. */
export function off(what: string, { answer, deviation }: Judged, size: number): string | undefined {
  const angle = degrees(Math.asin(Math.min(1, deviation / size)));
  if (answer === 'nearly') return `nearly ${what}, ${angle} off`;
  return deviation > size * SAID_FROM ? `${what}, ${angle} off` : undefined;
}
/** Sine of a deviation that is rounding alone. */
const SAID_FROM = 1 / 1e10;

export const smaller = (a: MeasuredShape, b: MeasuredShape): number => Math.min(a.span, b.span);

export function rule<A extends MeasuredKind, B extends MeasuredKind, C extends Record<string, PairCase>>(
  of: readonly [A, B],
  cases: C,
  measure: (a: Shape<A>, b: Shape<B>, within: number) => Found & { case: keyof C & string },
): PairRule {
  return { of, cases, measure: measure as PairRule['measure'] };
}

/** Two lines or axes, by how they run; `names` are the labels of the case. */
export function ofLines(
  a: LineOf & MeasuredShape,
  b: LineOf & MeasuredShape,
  within: number,
  names: { parallel: string; skew: string },
) {
  const size = smaller(a, b);
  const runs = parallel(a.axis, b.axis, size, within);
  const angle = angleOfLines(a.axis, b.axis);
  if (runs.answer !== 'not') {
    const foot = footOnLine(a.origin, b);
    const note = off('parallel', runs, size);
    return {
      case: 'parallel' as const,
      lead: fact(names.parallel, 'length', distance(a.origin, foot), note),
      rows: runs.answer === 'nearly' ? [fact('Angle', 'angle', angle)] : [],
      dimension: [a.origin, foot] as const,
    };
  }
  const [p, q] = nearestOfLines(a, b);
  const apart = distance(p, q);
  if (apart <= within)
    return { case: 'meeting' as const, lead: fact('Angle', 'angle', angle), rows: [at('They meet at', p)] };
  return {
    case: 'skew' as const,
    lead: fact(names.skew, 'length', apart),
    rows: [fact('Angle', 'angle', angle)],
    dimension: [p, q] as const,
  };
}

/**
 * Distances are told without a sign, whatever they are of; on which side of a plane
 * something lies is said beneath.
 */
export function sideOf(p: Vec3, { origin, axis, bounds }: Shape<'plane'>, within: number): Fact[] {
  const height = dot(subtract(p, origin), axis);
  if (Math.abs(height) <= within) return [];
  if (bounds)
    return [
      says('It lies', height > 0 ? 'in front of the face' : 'behind the face, on the side of its material'),
    ];
  return [says('It lies', height > 0 ? 'on the side of the normal' : 'on the other side')];
}

/**
 * Least and greatest between a wall of a radius and something that lies so far from its axis:
 * none where it cuts the wall.
 */
export const toWall = (away: number, radius: number, within: number, label: string): Fact =>
  away < radius - within
    ? fact(label, 'length', 0, 'it cuts the wall')
    : fact(label, 'length', Math.max(0, away - radius));

export const LINES = (parallelLeads: string, skewLeads: string) => ({
  parallel: { when: 'parallel', leads: parallelLeads, beneath: ['Angle (where nearly parallel)'] },
  meeting: { when: 'they meet', leads: 'Angle', beneath: ['They meet at'] },
  skew: { when: 'else', leads: skewLeads, beneath: ['Angle'] },
});

export const one = (leads: string, ...beneath: string[]) => ({ any: { when: '', leads, beneath } });

export function sameAxis({ deviation, answer }: Judged): string | undefined {
  if (answer === 'nearly') return `nearly the same axis, ${micrometres(deviation)} off`;
  return deviation > MEASURED_SAME * SAID_OFF ? `same axis, ${micrometres(deviation)} off` : undefined;
}
/** Of what counts as the same: less is rounding. */
const SAID_OFF = 1 / 1000;
