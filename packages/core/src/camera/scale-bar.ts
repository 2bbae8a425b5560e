import { MILLIMETRES, type LengthUnit } from '../units/length-units.ts';

/** px between which a bar is read well. */
const SHORTEST = 50;
const ROUND = [1, 2, 5];

/** A length that is 1, 2 or 5 of a decimal place in a unit, drawn as 50 to 125 px. */
export function scaleBar(mmPerPixel: number, unit: LengthUnit): { px: number; text: string } {
  const least = (SHORTEST * mmPerPixel) / MILLIMETRES[unit];
  const decade = Math.floor(Math.log10(least));
  const value = [...ROUND, 10].map((n) => n * 10 ** decade).find((x) => x >= least) ?? 10 ** (decade + 1);
  // Multiplied decades are off by a rounding.
  const text = String(Number(value.toPrecision(1)));
  return { px: (value * MILLIMETRES[unit]) / mmPerPixel, text: `${text} ${unit}` };
}
