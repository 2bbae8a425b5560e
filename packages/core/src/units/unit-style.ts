import { LENGTH_DECIMALS, MILLIMETRES, type LengthUnit } from './length-units.ts';

/** How figures are told. */
export interface UnitStyle {
  unit: LengthUnit;
  /** Decimals of a millimetre; other units have as many more or fewer as they are larger or smaller. */
  precision: number;
  /** Inches as decimals, as fractions to 1/64, or as feet and inches with fractions. */
  inches: 'decimal' | 'fraction' | 'feet';
  angles: 'degrees' | 'minutes' | 'radians';
  /** A unit that leading lengths are told in as well. */
  second: LengthUnit | null;
}

export const INCH_STYLES: readonly UnitStyle['inches'][] = ['decimal', 'fraction', 'feet'];
export const ANGLE_STYLES: readonly UnitStyle['angles'][] = ['degrees', 'minutes', 'radians'];
export const PLAIN_PRECISION = 3;
export const MOST_PRECISION = 6;

/** The usual way of a unit: to the micrometre, inches as decimals, angles in degrees. */
export const plainStyle = (unit: LengthUnit): UnitStyle => ({
  unit,
  precision: PLAIN_PRECISION,
  inches: 'decimal',
  angles: 'degrees',
  second: null,
});

/** Decimals of a length in a unit at a precision. */
export const decimalsOf = (unit: LengthUnit, precision: number): number =>
  Math.max(0, Math.min(9, LENGTH_DECIMALS[unit] + precision - PLAIN_PRECISION));

const FINEST = 64;
const INCHES_PER_FOOT = 12;
const MINUS = '\u2212';
const [PRIME, DOUBLE_PRIME] = ['\u2032', '\u2033'];
/** Of a 64th: nearer than this a length is the fraction. */
const EXACTLY = 1 / 1000;

/** Inches to the nearest 64th, with `≈` where they are not that: `1 3/8`, `2′ 3 1/2″`. */
export function inchText(mm: number, feet: boolean): string {
  const parts = (Math.abs(mm) / MILLIMETRES.in) * FINEST;
  const whole = Math.round(parts);
  const about = Math.abs(parts - whole) > EXACTLY ? '\u2248 ' : '';
  const sign = mm < 0 && whole > 0 ? MINUS : '';
  const inches = Math.floor(whole / FINEST);
  const fraction = reduced(whole % FINEST);
  const tell = (n: number) => [n || !fraction ? String(n) : '', fraction].filter(Boolean).join(' ');
  if (!feet) return `${about}${sign}${tell(inches)}`;
  const ft = Math.floor(inches / INCHES_PER_FOOT);
  return `${about}${sign}${ft ? `${ft}${PRIME} ` : ''}${tell(inches % INCHES_PER_FOOT)}${DOUBLE_PRIME}`;
}

function reduced(parts: number): string {
  if (!parts) return '';
  let below = FINEST;
  while (parts % 2 === 0) [parts, below] = [parts / 2, below / 2];
  return `${parts}/${below}`;
}

/** Degrees, minutes and seconds to a hundredth: `45° 30′ 00.00″`. */
export function minutesText(angle: number): string {
  const hundredths = Math.round(((Math.abs(angle) * 180) / Math.PI) * 360_000);
  const [degrees, minutes, seconds] = [
    Math.floor(hundredths / 360_000),
    Math.floor(hundredths / 6000) % 60,
    (hundredths % 6000) / 100,
  ];
  const two = (text: string) => text.padStart(text.includes('.') ? 5 : 2, '0');
  return `${angle < 0 && hundredths > 0 ? MINUS : ''}${degrees}° ${two(String(minutes))}${PRIME} ${two(seconds.toFixed(2))}${DOUBLE_PRIME}`;
}
