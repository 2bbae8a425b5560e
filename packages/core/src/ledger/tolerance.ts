import { readQuantity } from '../units/read-quantity.ts';
import type { LengthUnit } from '../units/format-quantity.ts';
import { fieldOfKind, oneOfKind, type KeptKind } from './kept-kind.ts';
import { deviationsOf, isHoleClass, NoSuchClass, readClass, type ToleranceClass } from './iso-286.ts';

/** How far a figure may be from its nominal value; mm or rad. */
export type Tolerance =
  | { kind: 'limits'; lower: number; upper: number }
  /** A class of ISO 286, of the nominal size. */
  | { kind: 'class'; of: ToleranceClass }
  /**
   * Of a bore and a shaft: the figure is the difference of their diameters. `size`: mm, the
   * nominal diameter of both.
   */
  | { kind: 'fit'; size: number; hole: ToleranceClass; shaft: ToleranceClass };

export type ReadTolerance = { tolerance: Tolerance; nominal?: number } | { fault: string };

const MINUS = /[−–]/g;

/**
 * Reads what people write behind a nominal value: `±0.1`, `0.1`, `+0.2/-0.1`, `+0.2 -0.1`, `0/-0.05`, `H7`,
 * `24 H7`, `40 H7/g6`.
 * Sizes and deviations are in the unit shown.
 * @param nominal mm or rad, for the classes @returns what it is, with the nominal value where that was
 * written too; or what is wrong
 */
export function readTolerance(
  text: string,
  kind: KeptKind,
  unit: LengthUnit,
  nominal: number | null,
): ReadTolerance {
  const plain = text.trim().replace(MINUS, '-');
  if (!plain) return { fault: 'Write a tolerance: ±0.1, +0.2/-0.1 or a class such as H7.' };
  const one = oneOfKind(kind, unit);
  const ofClass = fitOf(plain, one, nominal) ?? classOf(plain, one, nominal);
  if (ofClass && kind !== 'length')
    return { fault: 'Classes of ISO 286 are for lengths and diameters. Write ±0.1 or +0.2/-0.1.' };
  return ofClass ?? limitsOf(plain, kind, one);
}

function fitOf(text: string, one: number, nominal: number | null): ReadTolerance | null {
  const [, size, bore, pin] =
    /^(\d+(?:[.,]\d+)?)?\s*([A-Z]{1,2}\d{1,2})\s*\/\s*([a-z]{1,2}\d{1,2})$/.exec(text) ?? [];
  if (!bore) return null;
  const [hole, shaft] = [readClass(bore)!, readClass(pin)!];
  const of = size ? one * Number(size.replace(',', '.')) : nominal;
  if (of === null) return { fault: `A fit needs the nominal diameter: 40 ${text}.` };
  return checked({ kind: 'fit', size: of, hole, shaft }, 0);
}

function classOf(text: string, one: number, nominal: number | null): ReadTolerance | null {
  const [, size, written] = /^(\d+(?:[.,]\d+)?)?\s*([A-Za-z]{1,2}\s*\d{1,2})$/.exec(text) ?? [];
  const of = written && readClass(written);
  if (!of) return null;
  const value = size ? one * Number(size.replace(',', '.')) : nominal;
  if (value === null) return { fault: `A class needs a nominal size: 24 ${text}.` };
  return checked({ kind: 'class', of }, value, size ? value : undefined);
}

function checked(tolerance: Tolerance, size: number, nominal?: number): ReadTolerance {
  try {
    deviations(tolerance, size);
    return { tolerance, ...(nominal !== undefined && { nominal }) };
  } catch (error) {
    if (error instanceof NoSuchClass) return { fault: error.message };
    throw error;
  }
}

function limitsOf(text: string, kind: KeptKind, one: number): ReadTolerance {
  const value = (part: string): number | string => {
    const read = readQuantity(part.replace(/^\+\s*/, ''), fieldOfKind(kind), one);
    return 'value' in read ? read.value : read.wrong;
  };
  const two = /^([+-]?[^/]+?)\s*\/\s*([+-]?[^/]+)$/.exec(text) ?? /^([+-]\S+)\s+([+-]?\S+)$/.exec(text);
  if (!two) {
    const by = value(text.replace(/^(±|\+\/-|\+-)\s*/, ''));
    if (typeof by === 'string') return { fault: by };
    return by < 0
      ? { fault: 'A tolerance of ± is not below 0.' }
      : { tolerance: { kind: 'limits', lower: -by, upper: by } };
  }
  const [upper, lower] = [value(two[1]), value(two[2])];
  if (typeof upper === 'string') return { fault: upper };
  if (typeof lower === 'string') return { fault: lower };
  if (lower > upper)
    return {
      fault: 'The limits are the wrong way round: the upper deviation comes first, for example +0.2/-0.1.',
    };
  return { tolerance: { kind: 'limits', lower, upper } };
}

/** mm or rad from the nominal value. @throws NoSuchClass */
export function deviations(tolerance: Tolerance, nominal: number): { lower: number; upper: number } {
  if (tolerance.kind === 'limits') return tolerance;
  if (tolerance.kind === 'class') return deviationsOf(nominal, tolerance.of);
  const { size, hole, shaft } = tolerance;
  if (!isHoleClass(hole) || isHoleClass(shaft))
    throw new NoSuchClass('A fit names the hole first, in capitals, then the shaft: H7/g6.');
  const [bore, pin] = [deviationsOf(size, hole), deviationsOf(size, shaft)];
  return { lower: bore.lower - pin.upper, upper: bore.upper - pin.lower };
}

/**
 * The least and the greatest that a figure may be. A fit tells of the difference itself, whatever its nominal
 * value. @throws NoSuchClass
 */
export function limits(tolerance: Tolerance, nominal: number): { least: number; greatest: number } {
  const { lower, upper } = deviations(tolerance, nominal);
  const from = tolerance.kind === 'fit' ? 0 : nominal;
  return { least: from + lower, greatest: from + upper };
}

/** Whether a figure keeps within its limits; what is off by rounding alone does. */
export function keepsWithin(
  value: number,
  { least, greatest }: { least: number; greatest: number },
): boolean {
  const slack = Math.max(Math.abs(least), Math.abs(greatest), 1) / 1e9;
  return value >= least - slack && value <= greatest + slack;
}

/** As it is written: ±0.1, +0.2/−0.1, H7, 40 H7/g6. @param say a value in the wanted unit */
export function toleranceText(tolerance: Tolerance, say: (value: number) => string): string {
  if (tolerance.kind === 'class') return `${tolerance.of.position}${tolerance.of.grade}`;
  if (tolerance.kind === 'fit')
    return `${say(tolerance.size)} ${tolerance.hole.position}${tolerance.hole.grade}/${tolerance.shaft.position}${tolerance.shaft.grade}`;
  const { lower, upper } = tolerance;
  if (lower === -upper) return `±${say(upper)}`;
  const signed = (x: number) => `${x > 0 ? '+' : ''}${say(x)}`;
  return `${signed(upper)}/${signed(lower)}`;
}
