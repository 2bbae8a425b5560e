import type { FactValue } from './describe-pick.ts';

/** One value for programs: a number in mm, mm², mm³, mm⁴ or rad, or a text. */
export interface PlainFigure {
  name: string;
  value: number | string;
  unit: string;
}

const UNITS: Record<Exclude<FactValue['kind'], 'text'>, string> = {
  length: 'mm',
  area: 'mm²',
  volume: 'mm³',
  'second moment': 'mm⁴',
  angle: 'rad',
  count: '',
  ratio: '',
  point: 'mm',
  size: 'mm',
  direction: '',
};

/** Facts as programs read them: one value a line, those of a point by their axes. */
export const plainFigures = (facts: readonly { label: string; value: FactValue | null }[]): PlainFigure[] =>
  facts.flatMap(({ label, value }): PlainFigure[] => {
    if (!value) return [];
    if (value.kind === 'text') return [{ name: label, value: value.value, unit: '' }];
    const unit = UNITS[value.kind];
    if (typeof value.value === 'number') return [{ name: label, value: value.value, unit }];
    return value.value.map((x, k) => ({ name: `${label} ${'xyz'[k]}`, value: x, unit }));
  });
