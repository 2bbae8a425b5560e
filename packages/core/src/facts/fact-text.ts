import { ALONG_AXIS, LEAST_DEVIATION } from '../tolerances.ts';
import type { Vec3 } from '../math/vec3.ts';
import {
  fixed,
  formatQuantity,
  MILLIMETRES,
  styleOf,
  type FormattedQuantity,
  type LengthUnit,
} from '../units/format-quantity.ts';
import type { UnitStyle } from '../units/unit-style.ts';
import { boundText, sharePercent } from './bound-text.ts';
import type { Fact, FactValue, PickFacts } from './describe-pick.ts';

/* Facts as they are shown and copied. */

const AXES = ['X', 'Y', 'Z'];
const MINUS = '\u2212';

function directionText(v: Vec3): string {
  const along = v.findIndex((x) => Math.abs(Math.abs(x) - 1) < ALONG_AXIS);
  if (along >= 0) return `${v[along] < 0 ? MINUS : '+'}${AXES[along]}`;
  return v.map((x) => fixed(x, 4)).join('  ');
}

/** A value in the wanted unit. Points and sizes are three figures in one text. */
export function valueText(value: FactValue, wanted: LengthUnit | UnitStyle): FormattedQuantity {
  const three = (join: string, v: Vec3) => {
    const shown = v.map((x) => formatQuantity(x, 'length', wanted));
    return { text: shown.map((s) => s.text).join(join), unit: shown[0].unit };
  };
  switch (value.kind) {
    case 'text':
      return { text: value.value, unit: '' };
    case 'direction':
      return { text: directionText(value.value), unit: '' };
    case 'point':
      return three('  ', value.value);
    case 'size':
      return three(' × ', value.value);
    default: {
      const shown = formatQuantity(value.value, value.kind, wanted);
      return { text: `${value.prefix ? `${value.prefix} ` : ''}${shown.text}`, unit: shown.unit };
    }
  }
}

/**
 * The mark of a figure that is not what it is to all its digits. What was recognised is, within
 * a deviation that is told.
 */
export const markOf = (value: FactValue, accuracy: PickFacts['accuracy']): string =>
  accuracy && accuracy.kind !== 'exact' && accuracy.kind !== 'recognised' && MARKED.has(value.kind)
    ? '\u2248\u2009'
    : '';

const MARKED: ReadonlySet<FactValue['kind']> = new Set([
  'length',
  'area',
  'volume',
  'second moment',
  'angle',
]);

/** A figure as it stands wherever it is told: its mark, its digits, its unit. */
export function figureText(
  value: FactValue,
  accuracy: PickFacts['accuracy'],
  wanted: LengthUnit | UnitStyle,
): string {
  const { text, unit } = valueText(value, wanted);
  return `${markOf(value, accuracy)}${text} ${unit}`.trim();
}

/** All of a thing's facts as lines of label, tab and value. @param where which thing it is */
export function factsAsText(facts: PickFacts, where: string, unit: LengthUnit | UnitStyle): string {
  const line = (f: Fact) => {
    const { text, unit: shown } = valueText(f.value, unit);
    return `${f.label}\t${text}${shown ? ` ${shown}` : ''}${f.note ? `, ${f.note}` : ''}`;
  };
  return [
    `${facts.title}\t${where}`,
    ...(facts.main ? [line(facts.main)] : []),
    ...facts.rows.map(line),
  ].join('\n');
}

/** A length in the second unit as well, where there is one; empty otherwise. */
export function secondText(value: FactValue, wanted: LengthUnit | UnitStyle): string {
  const { second } = styleOf(wanted);
  if (!second || value.kind !== 'length') return '';
  const { text, unit } = valueText(value, second);
  return `${text} ${unit}`;
}

/** How good figures are, in a few words, and in a sentence. `exact` is what needs no caution. */
export function accuracyText(
  accuracy: NonNullable<PickFacts['accuracy']>,
  unit: LengthUnit,
): { exact: boolean; text: string; sentence: string } {
  switch (accuracy.kind) {
    case 'exact':
      return { exact: true, text: 'exact', sentence: 'From the boundary representation' };
    case 'mesh':
    case 'slits':
    case 'followed':
    case 'estimate':
      return {
        exact: false,
        text: SUMMED[accuracy.kind](sharePercent(accuracy.within)),
        sentence: SUMMED_HOW[accuracy.kind],
      };
    case 'chords':
      return {
        exact: false,
        text: `within ${boundText(accuracy.within, unit)}`,
        sentence:
          'Round edges and faces are followed in short straight pieces; the true figure differs by this at most',
      };
    default:
      return {
        exact: false,
        text: `recognised, deviation ${deviationText(accuracy.deviation, unit)}`,
        sentence:
          'An analytic shape found in a free-form one; the deviation is the largest distance of a sample from it',
      };
  }
}

const SUMMED = {
  mesh: (percent: string) => `from mesh, within ${percent}`,
  slits: (percent: string) => `within ${percent}`,
  followed: (percent: string) => `within ${percent}`,
  estimate: (percent: string) => `estimate, about ± ${percent}`,
};

const SUMMED_HOW = {
  mesh: 'Summed over the triangles that stand for the exact shape',
  slits:
    'Summed exactly over faces that do not quite meet: how much the slits between them may amount to is told',
  followed: 'Free curves are followed in short straight pieces; the true figure differs by this at most',
  estimate: 'Two independent ways do not agree; the difference is told, and is no bound',
};

/** Deviations are far below a micrometre as a rule: shown by their power of ten. */
const deviationText = (mm: number, unit: LengthUnit): string =>
  `${mm < LEAST_DEVIATION ? `< ${LEAST_DEVIATION}` : (mm / MILLIMETRES[unit]).toExponential(1)} ${unit}`;
