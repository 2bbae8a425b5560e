import { LENGTH_DECIMALS, LENGTH_UNITS, MILLIMETRES, type LengthUnit } from './length-units.ts';
import { decimalsOf, inchText, minutesText, plainStyle, type UnitStyle } from './unit-style.ts';

export { LENGTH_DECIMALS, LENGTH_UNITS, MILLIMETRES, type LengthUnit };

export type QuantityKind = 'length' | 'area' | 'volume' | 'second moment' | 'angle' | 'count' | 'ratio';

export interface FormattedQuantity {
  text: string;
  unit: string;
}

const POWERS = { length: 1, area: 2, volume: 3, 'second moment': 4 } as const;
const EXPONENTS = ['', '', '²', '³', '⁴'];
/** U+2009: groups of three digits apart by a thin space (ISO 80000-1, 7.3.1). */
const THIN_SPACE = '\u2009';
const MINUS = '\u2212';

/**
 * A quantity as text in the wanted unit or way. Decimals are those that are set; of areas, volumes and second
 * moments as far as seven figures go.
 */
export function formatQuantity(
  value: number,
  kind: QuantityKind,
  wanted: LengthUnit | UnitStyle,
): FormattedQuantity {
  const style = styleOf(wanted);
  const { unit } = style;
  if (kind === 'angle') return formatAngle(value, style);
  if (kind === 'count') return { text: fixed(value, 0), unit: '' };
  if (kind === 'ratio') return { text: value.toExponential(1), unit: '' };
  const power = POWERS[kind];
  const scaled = value / MILLIMETRES[unit] ** power;
  if (power === 1 && unit === 'in' && style.inches !== 'decimal')
    return { text: inchText(value, style.inches === 'feet'), unit: style.inches === 'feet' ? '' : unit };
  const wantedDecimals = decimalsOf(unit, style.precision);
  const decimals = power === 1 ? wantedDecimals : decimalsOfPower(scaled, wantedDecimals);
  return { text: fixed(scaled, decimals), unit: unit + EXPONENTS[power] };
}

const MOST_FIGURES = 7;
const LEAST_FIGURES = 4;
const FINEST_PLACE = 15;

/**
 * Areas, volumes and second moments have the decimals that are set, but no more than seven figures, and never
 * fewer than four.
 */
function decimalsOfPower(value: number, wanted: number): number {
  const before = value === 0 ? 0 : Math.floor(Math.log10(Math.abs(value)));
  const most = Math.max(0, MOST_FIGURES - 1 - before);
  return Math.min(
    FINEST_PLACE,
    Math.max(Math.min(wanted, most), before < 0 ? LEAST_FIGURES - 1 - before : 0),
  );
}

/** A quantity known to within a bound above 0: that to two figures upwards, the value to the same place. */
export function formatWithin(
  value: number,
  within: number,
  kind: 'length' | 'area' | 'volume',
  wanted: LengthUnit | UnitStyle,
): FormattedQuantity & { within: string } {
  const { unit } = styleOf(wanted);
  const size = MILLIMETRES[unit] ** POWERS[kind];
  const place = Math.floor(Math.log10(within / size)) - 1;
  const to = (x: number) =>
    fixed(place < 0 ? x / size : Math.round(x / size / 10 ** place) * 10 ** place, Math.max(0, -place));
  const upwards = Math.ceil(Number((within / size / 10 ** place).toPrecision(12))) * 10 ** place * size;
  return { text: to(value), within: to(upwards), unit: unit + EXPONENTS[POWERS[kind]] };
}

export const styleOf = (wanted: LengthUnit | UnitStyle): UnitStyle =>
  typeof wanted === 'string' ? plainStyle(wanted) : wanted;

function formatAngle(value: number, { angles, precision }: UnitStyle): FormattedQuantity {
  if (angles === 'minutes') return { text: minutesText(value), unit: '' };
  if (angles === 'radians') return { text: fixed(value, precision + 2), unit: 'rad' };
  return { text: fixed((value * 180) / Math.PI, precision), unit: '°' };
}

/** A length as one would say it: no more decimals than it has. */
export const shortLength = (mm: number, unit: LengthUnit): string =>
  `${Number((mm / MILLIMETRES[unit]).toFixed(LENGTH_DECIMALS[unit]))} ${unit}`;

/** Decimals beyond which nothing is shown. */
const MOST_DECIMALS = 9;

/** To so many significant figures, grouped and signed like all others; never with a power of ten. */
export function significant(value: number, figures: number): string {
  const rounded = Number(value.toPrecision(figures));
  const before = rounded === 0 ? 0 : Math.floor(Math.log10(Math.abs(rounded)));
  return fixed(rounded, Math.max(0, Math.min(MOST_DECIMALS, figures - 1 - before)));
}

/** Fixed decimals, grouped in threes, with a real minus sign and never “−0”. */
export function fixed(value: number, decimals: number): string {
  const text = Math.abs(value).toFixed(decimals);
  const [whole, fraction] = text.split('.');
  const grouped = whole.length > 4 ? whole.replace(/\B(?=(\d{3})+$)/g, THIN_SPACE) : whole;
  const sign = value < 0 && /[1-9]/.test(text) ? MINUS : '';
  return sign + grouped + (fraction ? `.${fraction}` : '');
}
