/* What is typed as a density. */

export type ReadDensity =
  | {
      /** kg/m³ */
      density: number;
    }
  | {
      /** A bare number that is a likely density in two units: kg/m³ of either reading. */
      either: readonly [asWritten: number, asGrams: number];
    }
  | { wrong: string };

/**
 * kg/m³ that one of a unit is. The pound is 0.453 592 37 kg, the inch 25.4 mm exactly (agreement of 1959).
 */
const UNITS: Readonly<Record<string, number>> = {
  'kg/m³': 1,
  'g/l': 1,
  'g/cm³': 1000,
  'g/ml': 1000,
  'kg/l': 1000,
  'kg/dm³': 1000,
  't/m³': 1000,
  'mg/mm³': 1000,
  'g/mm³': 1e6,
  'kg/mm³': 1e9,
  'lb/in³': 0.45359237 / 0.0254 ** 3,
  'lb/ft³': 0.45359237 / 0.3048 ** 3,
};

/** kg/m³. Osmium, the densest there is on Earth, has 22 590 (from memory of handbooks). */
const DENSEST = 22700;
/** Below this a bare number is more likely meant in g/cm³: only gases and aerogels are lighter as kg/m³. */
const LIKELY_GRAMS = 25;

/**
 * A density as people write it: `7850`, `7,85 g/cm³`, `0.284 lb/in3`. A bare number is taken as kg/m³, unless
 * it may as well be g/cm³:
 * then both are given, for the user to say which.
 */
export function readDensity(text: string): ReadDensity {
  const written = text.trim();
  if (!written) return { wrong: 'Type a density, for example 7850 or 7.85 g/cm³.' };
  const [, digits, unit] = /^([-+]?[\d\s]*[.,]?\d+(?:e[-+]?\d+)?)\s*(\D.*)?$/i.exec(written) ?? [];
  const number = digits === undefined ? NaN : Number(digits.replace(/\s/g, '').replace(',', '.'));
  if (!Number.isFinite(number))
    return { wrong: `“${written}” is no density. Type a number, for example 7850 or 7.85 g/cm³.` };
  if (number === 0) return { wrong: 'A density of 0 weighs nothing. Leave it without a material instead.' };
  if (number < 0) return { wrong: 'A density is above 0.' };
  if (unit === undefined) {
    if (number <= LIKELY_GRAMS) return { either: [number, 1000 * number] };
    return within(number);
  }
  const factor = UNITS[unit.trim().toLowerCase().replace('^', '').replace(/3$/, '³')];
  if (!factor)
    return {
      wrong: `“${unit.trim()}” is no unit of density that is known here. Use kg/m³, g/cm³, lb/in³ or lb/ft³.`,
    };
  return within(number * factor);
}

function within(density: number): ReadDensity {
  if (density > DENSEST)
    return {
      wrong: `${Number(density.toPrecision(6))} kg/m³ is denser than any material (osmium: 22 590). Look at the unit.`,
    };
  return { density };
}
