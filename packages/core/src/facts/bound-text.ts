import { ROUNDING, TINY } from '../tolerances.ts';
import { MILLIMETRES, type LengthUnit } from '../units/format-quantity.ts';

/** A bound on a share, to one figure upwards. */
export const sharePercent = (share: number): string => `${upwards(share * 100)} %`;

/** A bound on a length, to one figure upwards. */
export function boundText(mm: number, unit: LengthUnit): string {
  return `${upwards(mm / MILLIMETRES[unit])} ${unit}`;
}

function upwards(value: number): string {
  const power = 10 ** Math.floor(Math.log10(Math.max(value, TINY)));
  const up = Math.ceil(value / power - ROUNDING) * power;
  return up < 0.0001 ? up.toExponential(0) : String(Number(up.toPrecision(1)));
}
