import type { FactValue } from '../facts/describe-pick.ts';
import { LENGTH_DECIMALS, MILLIMETRES, type LengthUnit } from '../units/format-quantity.ts';
import type { FieldKind } from '../units/read-quantity.ts';

/** What can be kept: figures that are one number. */
export type KeptKind = 'length' | 'angle' | 'area' | 'volume';

export const keptKind = ({ kind }: FactValue): KeptKind | null =>
  kind === 'length' || kind === 'angle' || kind === 'area' || kind === 'volume' ? kind : null;

const POWERS = { length: 1, area: 2, volume: 3 } as const;

/** One of the unit shown inside: mm, mm² or mm³ of it, radians of a degree. */
export const oneOfKind = (kind: KeptKind, unit: LengthUnit): number =>
  kind === 'angle' ? Math.PI / 180 : MILLIMETRES[unit] ** POWERS[kind];

/** How a field reads it. */
export const fieldOfKind = (kind: KeptKind): FieldKind =>
  kind === 'length' || kind === 'angle' ? kind : 'number';

const ANGLE_DECIMALS = 4;
const FIGURES = 7;

/** A value as one would write it: in the unit shown, with no more digits than it has. */
export function writtenFigure(value: number, kind: KeptKind, unit: LengthUnit): string {
  const shown = value / oneOfKind(kind, unit);
  if (kind === 'length') return String(Number(shown.toFixed(LENGTH_DECIMALS[unit])));
  return kind === 'angle'
    ? `${Number(shown.toFixed(ANGLE_DECIMALS))}°`
    : String(Number(shown.toPrecision(FIGURES)));
}
