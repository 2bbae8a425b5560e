import type { Hole } from '../geometry/hole.ts';
import { likelyFor } from '../holes/likely-for.ts';
import { shortLength, type LengthUnit } from '../units/format-quantity.ts';
import type { FactValue } from './describe-pick.ts';

/** A figure of a hole, as every list of holes tells it. */
export interface HoleFigure {
  label: string;
  quantity: 'length' | 'text';
  /** mm and rad; null where a hole has none. Texts name lengths in the unit. */
  of: (hole: Hole, unit: LengthUnit) => FactValue | null;
  /** What a narrow table heads its column with; left out of it where there is none. */
  short?: string;
  /** What a narrow table says in place of the value; null for the value. */
  instead?: (hole: Hole) => string | null;
}

const length = (value: number): FactValue => ({ kind: 'length', value });
const text = (value: string): FactValue | null => (value ? { kind: 'text', value } : null);

/** The figures of a hole, declared once: tables, CSV and `bin/inspect --holes` walk this list. */
export const HOLE_FIGURES: readonly HoleFigure[] = [
  { label: 'Diameter', quantity: 'length', short: 'Ø', of: (hole) => length(hole.diameter) },
  {
    label: 'Depth',
    quantity: 'length',
    short: 'Depth',
    of: (hole) => length(hole.depth),
    instead: ({ ends }) => (ends === 'through' ? ends : null),
  },
  { label: 'Ends', quantity: 'text', of: ({ ends }) => text(ends) },
  { label: 'Steps', quantity: 'text', of: (hole, unit) => text(stepsText(hole, unit)) },
  { label: 'Likely', quantity: 'text', of: (hole) => text(likelyFor(hole)[0]?.use ?? '') },
  {
    label: 'Least depth along the wall',
    quantity: 'length',
    of: ({ along }) => (along ? length(along.least) : null),
  },
  {
    label: 'Greatest depth along the wall',
    quantity: 'length',
    of: ({ along }) => (along ? length(along.greatest) : null),
  },
];

/** Counterbores and the like in short. */
export function stepsText({ steps }: Hole, unit: LengthUnit): string {
  const bare = (mm: number): string => shortLength(mm, unit).split(' ')[0];
  return steps
    .map(({ kind, angle, diameter, depth }) => {
      const degrees = angle ? ` ${Number(((angle * 180) / Math.PI).toFixed(2))}°` : '';
      return `${kind}${degrees} Ø${bare(diameter)} × ${bare(depth)}`;
    })
    .join('; ');
}
