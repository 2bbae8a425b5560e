import { PLAIN_UNITS, type PlainFigure } from '../units/plain-units.ts';
import type { FactValue } from './describe-pick.ts';

/** Facts as programs read them: one value a line, those of a point by their axes. */
export const plainFigures = (facts: readonly { label: string; value: FactValue | null }[]): PlainFigure[] =>
  facts.flatMap(({ label, value }): PlainFigure[] => {
    if (!value) return [];
    switch (value.kind) {
      case 'text':
        return [{ name: label, value: value.value, unit: '' }];
      case 'point':
      case 'size':
      case 'direction': {
        const unit = value.kind === 'direction' ? '' : PLAIN_UNITS.length;
        return value.value.map((x, k) => ({ name: `${label} ${'xyz'[k]}`, value: x, unit }));
      }
      default:
        return [{ name: label, value: value.value, unit: PLAIN_UNITS[value.kind] }];
    }
  });
