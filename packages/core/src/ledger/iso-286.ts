/* Limits and fits by ISO 286 for sizes up to 500 mm. Table values from memory; micrometres. */

/** A class that the standard does not have, in a sentence for the user. */
export class NoSuchClass extends Error {
  override name = 'NoSuchClass';
}

/** mm: deviations from the nominal size. */
export interface Deviations {
  lower: number;
  upper: number;
}

/** Upper ends of the main steps of size, mm (each step: over the end before, up to its own). */
const STEPS = [3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500];
/** Upper ends of the intermediate steps, which some deviations have. */
const FINE_STEPS = [
  3, 6, 10, 14, 18, 24, 30, 40, 50, 65, 80, 100, 120, 140, 160, 180, 200, 225, 250, 280, 315, 355, 400, 450,
  500,
];

/** Standard tolerances IT1 to IT18 by main step (ISO 286-1, table 1). */
const GRADES: readonly (readonly number[])[] = [
  [0.8, 1, 1, 1.2, 1.5, 1.5, 2, 2.5, 3.5, 4.5, 6, 7, 8],
  [1.2, 1.5, 1.5, 2, 2.5, 2.5, 3, 4, 5, 7, 8, 9, 10],
  [2, 2.5, 2.5, 3, 4, 4, 5, 6, 8, 10, 12, 13, 15],
  [3, 4, 4, 5, 6, 7, 8, 10, 12, 14, 16, 18, 20],
  [4, 5, 6, 8, 9, 11, 13, 15, 18, 20, 23, 25, 27],
  [6, 8, 9, 11, 13, 16, 19, 22, 25, 29, 32, 36, 40],
  [10, 12, 15, 18, 21, 25, 30, 35, 40, 46, 52, 57, 63],
  [14, 18, 22, 27, 33, 39, 46, 54, 63, 72, 81, 89, 97],
  [25, 30, 36, 43, 52, 62, 74, 87, 100, 115, 130, 140, 155],
  [40, 48, 58, 70, 84, 100, 120, 140, 160, 185, 210, 230, 250],
  [60, 75, 90, 110, 130, 160, 190, 220, 250, 290, 320, 360, 400],
  [100, 120, 150, 180, 210, 250, 300, 350, 400, 460, 520, 570, 630],
  [140, 180, 220, 270, 330, 390, 460, 540, 630, 720, 810, 890, 970],
  [250, 300, 360, 430, 520, 620, 740, 870, 1000, 1150, 1300, 1400, 1550],
  [400, 480, 580, 700, 840, 1000, 1200, 1400, 1600, 1850, 2100, 2300, 2500],
  [600, 750, 900, 1100, 1300, 1600, 1900, 2200, 2500, 2900, 3200, 3600, 4000],
  [1000, 1200, 1500, 1800, 2100, 2500, 3000, 3500, 4000, 4600, 5200, 5700, 6300],
  [1400, 1800, 2200, 2700, 3300, 3900, 4600, 5400, 6300, 7200, 8100, 8900, 9700],
];

/**
 * Sizes of fundamental deviations of shafts: below the nominal size for a to g, above it for k to zc. By main
 * or intermediate step; 0 where there is none, and no figure past 10 mm for cd, ef and fg.
 */
const SHAFTS: Readonly<Record<string, readonly number[]>> = {
  a: [
    270, 270, 280, 290, 290, 300, 300, 310, 320, 340, 360, 380, 410, 460, 520, 580, 660, 740, 820, 920, 1050,
    1200, 1350, 1500, 1650,
  ],
  b: [
    140, 140, 150, 150, 150, 160, 160, 170, 180, 190, 200, 220, 240, 260, 280, 310, 340, 380, 420, 480, 540,
    600, 680, 760, 840,
  ],
  c: [
    60, 70, 80, 95, 95, 110, 110, 120, 130, 140, 150, 170, 180, 200, 210, 230, 240, 260, 280, 300, 330, 360,
    400, 440, 480,
  ],
  cd: [34, 46, 56],
  d: [20, 30, 40, 50, 65, 80, 100, 120, 145, 170, 190, 210, 230],
  e: [14, 20, 25, 32, 40, 50, 60, 72, 85, 100, 110, 125, 135],
  ef: [10, 14, 18],
  f: [6, 10, 13, 16, 20, 25, 30, 36, 43, 50, 56, 62, 68],
  fg: [4, 6, 8],
  g: [2, 4, 5, 6, 7, 9, 10, 12, 14, 15, 17, 18, 20],
  k: [0, 1, 1, 1, 2, 2, 2, 3, 3, 4, 4, 4, 5],
  m: [2, 4, 6, 7, 8, 9, 11, 13, 15, 17, 20, 21, 23],
  n: [4, 8, 10, 12, 15, 17, 20, 23, 27, 31, 34, 37, 40],
  p: [6, 12, 15, 18, 22, 26, 32, 37, 43, 50, 56, 62, 68],
  r: [10, 15, 19, 23, 23, 28, 28, 34, 34, 41, 43, 51, 54, 63, 65, 68, 77, 80, 84, 94, 98, 108, 114, 126, 132],
  s: [
    14, 19, 23, 28, 28, 35, 35, 43, 43, 53, 59, 71, 79, 92, 100, 108, 122, 130, 140, 158, 170, 190, 208, 232,
    252,
  ],
  t: [
    0, 0, 0, 0, 0, 0, 41, 48, 54, 66, 75, 91, 104, 122, 134, 146, 166, 180, 196, 218, 240, 268, 294, 330, 360,
  ],
  u: [
    18, 23, 28, 33, 33, 41, 48, 60, 70, 87, 102, 124, 144, 170, 190, 210, 236, 258, 284, 315, 350, 390, 435,
    490, 540,
  ],
  v: [
    0, 0, 0, 0, 39, 47, 55, 68, 81, 102, 120, 146, 172, 202, 228, 252, 284, 310, 340, 385, 425, 475, 530, 595,
    660,
  ],
  x: [
    20, 28, 34, 40, 45, 54, 64, 80, 97, 122, 146, 178, 210, 248, 280, 310, 350, 385, 425, 475, 525, 590, 660,
    740, 820,
  ],
  y: [
    0, 0, 0, 0, 0, 63, 75, 94, 114, 144, 174, 214, 254, 300, 340, 380, 425, 470, 520, 580, 650, 730, 820, 920,
    1000,
  ],
  z: [
    26, 35, 42, 50, 60, 73, 88, 112, 136, 172, 210, 258, 310, 365, 415, 465, 520, 575, 640, 710, 790, 900,
    1000, 1100, 1250,
  ],
  za: [
    32, 42, 52, 64, 77, 98, 118, 148, 180, 226, 274, 335, 400, 470, 535, 600, 670, 740, 820, 920, 1000, 1150,
    1300, 1450, 1600,
  ],
  zb: [
    40, 50, 67, 90, 108, 136, 160, 200, 242, 300, 360, 445, 525, 620, 700, 780, 880, 960, 1050, 1200, 1300,
    1500, 1650, 1850, 2100,
  ],
  zc: [
    60, 80, 97, 130, 150, 188, 218, 274, 325, 405, 480, 585, 690, 800, 900, 1000, 1150, 1250, 1350, 1550,
    1700, 1900, 2100, 2400, 2600,
  ],
};

/** Lower deviations of shafts j, below the nominal size, by grade. */
const SHAFT_J: Readonly<Record<number, readonly number[]>> = {
  5: [2, 2, 2, 3, 4, 5, 7, 9, 11, 13, 16, 18, 20],
  6: [2, 2, 2, 3, 4, 5, 7, 9, 11, 13, 16, 18, 20],
  7: [4, 4, 5, 6, 8, 10, 12, 15, 18, 21, 26, 28, 32],
  // Of the smallest sizes only.
  8: [6],
};
/** Upper deviations of holes J, by grade. */
const HOLE_J: Readonly<Record<number, readonly number[]>> = {
  6: [2, 5, 5, 6, 8, 10, 13, 16, 18, 22, 25, 29, 33],
  7: [4, 6, 8, 10, 12, 14, 18, 22, 26, 30, 36, 39, 43],
  8: [6, 10, 12, 15, 20, 24, 28, 34, 41, 47, 55, 60, 66],
};

const MICROMETRES = 1000;
const LARGEST = 500;
const NO_DELTA_UP_TO = 3;
const NOT_SO_SMALL = 1;

/** A tolerance class as it is written, `H7` for holes and `g6` for shafts. */
export interface ToleranceClass {
  position: string;
  grade: number;
}

/** @returns null for what does not look like a class at all */
export function readClass(text: string): ToleranceClass | null {
  const [, position, grade] = /^\s*([A-Za-z]{1,2})\s*(\d{1,2})\s*$/.exec(text) ?? [];
  return position ? { position, grade: Number(grade) } : null;
}

export const isHoleClass = ({ position }: ToleranceClass): boolean => position === position.toUpperCase();

/**
 * Deviations of a tolerance class for a nominal size (ISO 286-2; the rules of ISO 286-1
 * give holes from shafts).
 * @param size mm @throws NoSuchClass with a sentence
 */
export function deviationsOf(size: number, { position, grade }: ToleranceClass): Deviations {
  if (!(size > 0)) throw new NoSuchClass('A tolerance class needs a nominal size above 0.');
  if (size > LARGEST)
    throw new NoSuchClass(
      `Tolerance classes are known here for sizes up to ${LARGEST} mm. Give the limits instead, for example +0.1/-0.2.`,
    );
  const step = STEPS.findIndex((end) => size <= end);
  const width = GRADES[grade - 1]?.[step];
  if (width === undefined)
    throw new NoSuchClass(`ISO 286 has no grade IT${grade} here: grades run from 1 to 18.`);
  // ISO 286-1: a and b, and N of grades beyond 8, are not used for sizes up to 1 mm.
  if (size <= NOT_SO_SMALL && (/^[ab]$/i.test(position) || (position === 'N' && grade > 8)))
    throw new NoSuchClass(`ISO 286 does not use ${position}${grade} for sizes up to ${NOT_SO_SMALL} mm.`);
  const hole = isHoleClass({ position, grade });
  const found = hole
    ? ofHole(size, step, position, grade, width)
    : ofShaft(size, step, position, grade, width);
  if (!found)
    throw new NoSuchClass(
      `ISO 286 has no ${position}${grade} for a size of ${Number(size.toPrecision(6))} mm.`,
    );
  return { lower: printed(found.lower), upper: printed(found.upper) };
}

/**
 * What is printed, to hundredths of a micrometre as half of a fine grade has them, on both
 * sides of nil alike; in mm.
 */
const printed = (micrometres: number): number =>
  (Math.sign(micrometres) * Math.round(Math.abs(micrometres) * 100)) / 100 / MICROMETRES + 0;

const ZERO_IS_A_FIGURE = new Set(['k']);

function sizeOf(letter: string, size: number, step: number): number | undefined {
  const row = SHAFTS[letter];
  const found = row && row[row.length <= STEPS.length ? step : FINE_STEPS.findIndex((end) => size <= end)];
  return found === 0 && !ZERO_IS_A_FIGURE.has(letter) ? undefined : found;
}

function ofShaft(
  size: number,
  step: number,
  letter: string,
  grade: number,
  width: number,
): Deviations | null {
  if (letter === 'h') return { lower: -width, upper: 0 };
  if (letter === 'js') return { lower: -width / 2, upper: width / 2 };
  if (letter === 'j') {
    const below = SHAFT_J[grade]?.[step];
    return below === undefined ? null : { lower: -below, upper: width - below };
  }
  const found = sizeOf(letter, size, step);
  if (found === undefined) return null;
  if (letter < 'h') return { lower: -found - width, upper: -found };
  // k stands over the nominal size for the middle grades only.
  const above = letter === 'k' && (grade < 4 || grade > 7) ? 0 : found;
  return { lower: above, upper: above + width };
}

function ofHole(size: number, step: number, letter: string, grade: number, width: number): Deviations | null {
  const lower = letter.toLowerCase();
  if (letter === 'H') return { lower: 0, upper: width };
  if (letter === 'JS') return { lower: -width / 2, upper: width / 2 };
  if (letter === 'J') {
    const above = HOLE_J[grade]?.[step];
    return above === undefined ? null : { lower: above - width, upper: above };
  }
  const found = sizeOf(lower, size, step);
  if (found === undefined) return null;
  if (lower < 'h') return { lower: found, upper: found + width };
  const upper = upperOfHole(lower, found, size, step, grade, width);
  return upper === null ? null : { lower: upper - width, upper };
}

/**
 * K to ZC lie below the nominal size; in fine grades less deep by the step between two grades, so that hole
 * and shaft fit alike.
 */
function upperOfHole(
  letter: string,
  found: number,
  size: number,
  step: number,
  grade: number,
  width: number,
): number | null {
  if (letter === 'm' && grade === 6 && size > STEPS[9] && size <= STEPS[10]) return -9;
  if (letter === 'n' && grade > 8) return size <= NO_DELTA_UP_TO ? -found : 0;
  if (letter === 'k' && grade > 8) return size <= NO_DELTA_UP_TO ? 0 : null;
  const finest = 'kmn'.includes(letter) ? 8 : 7;
  const delta = size > NO_DELTA_UP_TO && grade >= 3 && grade <= finest ? width - GRADES[grade - 2][step] : 0;
  return -found + delta;
}
