import { MILLIMETRES, type LengthUnit } from './format-quantity.ts';

/**
 * What a field wants: lengths in mm and angles in radians inside, times in seconds, masses in kilograms,
 * plain numbers as they are.
 */
export type FieldKind = 'length' | 'angle' | 'time' | 'mass' | 'number';

export type ReadQuantity =
  | {
      /** mm, rad, s or the number. */
      value: number;
      /** Whether more than one plain number had to be understood: a unit, a sum. */
      worked: boolean;
    }
  | { wrong: string };

const DEGREE = Math.PI / 180;

/**
 * Names of units and what one is inside. The yard of 1959 is 0.9144 m exactly, foot, inch and mil are its
 * parts; a gon is a 400th of a turn (ISO 80000-3).
 */
const UNITS: Record<FieldKind, Record<string, number>> = {
  length: {
    ...MILLIMETRES,
    µm: 1 / 1000,
    μm: 1 / 1000,
    um: 1 / 1000,
    dm: 100,
    km: 1e6,
    inch: 25.4,
    inches: 25.4,
    '"': 25.4,
    '″': 25.4,
    '”': 25.4,
    ft: 304.8,
    foot: 304.8,
    feet: 304.8,
    "'": 304.8,
    '′': 304.8,
    '’': 304.8,
    yd: 914.4,
    mil: 0.0254,
    thou: 0.0254,
  },
  angle: {
    '°': DEGREE,
    deg: DEGREE,
    degree: DEGREE,
    degrees: DEGREE,
    rad: 1,
    mrad: 1 / 1000,
    gon: Math.PI / 200,
    "'": DEGREE / 60,
    '′': DEGREE / 60,
    '’': DEGREE / 60,
    '"': DEGREE / 3600,
    '″': DEGREE / 3600,
    '”': DEGREE / 3600,
  },
  time: { s: 1, sec: 1, ms: 1 / 1000, min: 60 },
  // The pound of 1959 is 0.453 592 37 kg exactly, the ounce its sixteenth.
  mass: {
    kg: 1,
    g: 1 / 1000,
    mg: 1 / 1_000_000,
    t: 1000,
    lb: 0.45359237,
    lbs: 0.45359237,
    oz: 0.45359237 / 16,
  },
  number: {},
};

const WANTED: Record<FieldKind, string> = {
  length: 'a length',
  angle: 'an angle',
  time: 'a time',
  mass: 'a mass',
  number: 'a number',
};

/** A value and how often the unit is in it: 0 for a bare number, 1 for a quantity. */
interface Term {
  value: number;
  power: number;
  /** It stood in brackets. */
  closed?: boolean;
}

/** The -1/2 of 1-1/2 in. */
const INCH_FRACTION = /^-(\d+)\/(\d+)(?=\s*(?:in\b|inch|ft\b|foot|feet|["″”'′’]))/i;

class Misread extends Error {}

/** Groups of three digits apart by a space of its own kind are one number; so is what we write ourselves. */
const NUMBER = /^(?:\d{1,3}(?:[\u2009\u202f\u00a0]\d{3})+|\d+)?(?:[.,]\d+|[.,](?!\d))?(?:e[+-]?\d+)?/i;
const UNIT = /^(?:[a-zµμ]+|[°"'″′”’])/i;

/**
 * Reads what was typed into a number field: numbers with decimal point or comma, units, sums, products and
 * brackets, mixed fractions ("1 1/2 in"), units one after another ("5' 3\"", "12° 30'"). Bare numbers beside
 * quantities, and a result without any unit, are in the field's own unit (`bare` of the
 * inside unit: mm, rad, s).
 * Common practice of the trade's number fields; no published grammar.
 */
export function readQuantity(text: string, kind: FieldKind, bare: number): ReadQuantity {
  const reader = new Reader(text, kind, bare);
  try {
    const value = reader.read();
    return Number.isFinite(value)
      ? { value, worked: reader.worked }
      : { wrong: 'This is divided by nothing.' };
  } catch (e) {
    if (e instanceof Misread) return { wrong: e.message };
    throw e;
  }
}

const LONGEST = 200;

class Reader {
  worked = false;
  private rest: string;
  private depth = 0;

  constructor(
    text: string,
    private readonly kind: FieldKind,
    private readonly bare: number,
  ) {
    this.rest = text
      .replace(/[\u2212\u2013]/g, '-')
      .replace(/[×·]/g, '*')
      .replace(/[÷:]/g, '/')
      .trim();
  }

  read(): number {
    if (!this.rest) throw new Misread(`Type ${WANTED[this.kind]}.`);
    if (this.rest.length > LONGEST) throw new Misread('This is too long.');
    const { value, power } = this.sum();
    if (this.rest) throw new Misread(`“${this.rest}” is not understood.`);
    if (power > 1) throw new Misread(`This is not ${WANTED[this.kind]}: units are multiplied.`);
    if (power < 0 || (power === 0 && this.hadUnit))
      throw new Misread(`This is not ${WANTED[this.kind]}: the units cancel.`);
    return power ? value : value * this.bare;
  }

  private hadUnit = false;

  private take(pattern: RegExp): string | null {
    this.rest = this.rest.trimStart();
    const found = pattern.exec(this.rest)?.[0];
    if (!found) return null;
    this.rest = this.rest.slice(found.length);
    return found;
  }

  private sum(): Term {
    let sum = this.product();
    for (let sign = this.take(/^[+-]/); sign; sign = this.take(/^[+-]/)) {
      this.worked = true;
      const next = this.product();
      const power = Math.max(sum.power, next.power);
      if (power > 1 || Math.min(sum.power, next.power) < 0)
        throw new Misread(`This is not ${WANTED[this.kind]}: units are multiplied.`);
      const inside = (t: Term) => (power && !t.power ? t.value * this.bare : t.value);
      sum = { value: inside(sum) + (sign === '+' ? 1 : -1) * inside(next), power };
    }
    return sum;
  }

  private product(): Term {
    let product = this.signed();
    for (let sign = this.take(/^[*/]/); sign; sign = this.take(/^[*/]/)) {
      this.worked = true;
      const next = this.signed();
      if (sign === '*') product = { value: product.value * next.value, power: product.power + next.power };
      // "1/2 in" is half an inch, not one over two inches.
      else if (!product.power && next.power === 1 && !next.closed)
        product = { value: this.half(product.value, next), power: 1 };
      else product = { value: product.value / next.value, power: product.power - next.power };
    }
    return product;
  }

  private half(over: number, { value }: Term): number {
    return (over / (value / this.lastUnit)) * this.lastUnit;
  }

  private lastUnit = 1;

  private signed(): Term {
    const sign = this.take(/^[+-]/);
    if (!sign) return this.factor();
    const { value, power } = this.signed();
    return { value: sign === '-' ? -value : value, power };
  }

  private factor(): Term {
    if (this.take(/^\(/)) {
      if (++this.depth > 20) throw new Misread('There are too many brackets.');
      this.worked = true;
      const inner = this.sum();
      if (!this.take(/^\)/)) throw new Misread('A bracket is not closed.');
      this.depth--;
      const unit = inner.power ? null : this.unit();
      return unit === null
        ? { ...inner, closed: true }
        : { value: inner.value * unit, power: 1, closed: true };
    }
    const number = this.number();
    const unit = this.unit();
    if (unit === null) return { value: number, power: 0 };
    return { value: number * unit + this.finer(unit), power: 1 };
  }

  /** Quantities that follow without a sign, each in a finer unit: 5' 3", 12° 30' 15", 1 m 20 cm. */
  private finer(than: number): number {
    if (!/^\s*[\d.,]/.test(this.rest)) return 0;
    const number = this.fraction() ?? this.number();
    const unit = this.unit();
    if (unit === null || unit >= than)
      throw new Misread(`A sign is missing before “${number}”, or a finer unit behind it.`);
    return number * unit + this.finer(unit);
  }

  /** A fraction of its own: the 1/2 of 5' 1/2". */
  private fraction(): number | null {
    const found = this.take(/^\d+\s*\/\s*\d+(?![\d.,])/);
    if (!found) return null;
    const [over, under] = found.split('/').map(Number);
    return over / under;
  }

  private number(): number {
    const found = this.take(NUMBER);
    if (!found || !/\d/.test(found)) {
      const what = /^\S+/.exec(this.rest.trimStart())?.[0];
      throw new Misread(what ? `“${what}” is not a number.` : 'A number is missing at the end.');
    }
    if (/^[.,]\d/.test(this.rest))
      throw new Misread('A number has two decimal marks; leave out what groups the digits.');
    const number = Number(found.replace(/[\u2009\u202f\u00a0]/g, '').replace(',', '.'));
    // Three digits behind a comma may have been meant as a group: what was understood is shown.
    if (/^\d{1,3},\d{3}$/.test(found)) this.worked = true;
    // A whole number, a space and a fraction: 1 1/2; of inches and feet also 1-1/2, as drawings write it.
    const fraction =
      /^\s+(\d+)\s*\/\s*(\d+)(?![\d.,])/.exec(this.rest) ??
      (this.kind === 'length' ? INCH_FRACTION.exec(this.rest) : null);
    if (!fraction || !/^\d+$/.test(found)) return number;
    this.worked = true;
    this.rest = this.rest.slice(fraction[0].length);
    return number + Number(fraction[1]) / Number(fraction[2]);
  }

  private unit(): number | null {
    const before = this.rest;
    const name = this.take(UNIT);
    if (!name) return null;
    const known = UNITS[this.kind];
    const unit = Object.hasOwn(known, name)
      ? known[name]
      : Object.hasOwn(known, name.toLowerCase())
        ? known[name.toLowerCase()]
        : undefined;
    if (unit === undefined) {
      this.rest = before;
      const named = Object.keys(known).filter((n) => /^[a-z°]/i.test(n));
      throw new Misread(
        named.length
          ? `“${name}” is no unit of ${WANTED[this.kind].replace(/^an? /, '')}.`
          : `“${name}” has no place here: a number is wanted.`,
      );
    }
    this.worked = true;
    this.hadUnit = true;
    this.lastUnit = unit;
    return unit;
  }
}

/** One unit of a field inside: mm of the length unit shown, radians of a degree. */
export const bareUnit = (kind: FieldKind, unit: LengthUnit): number =>
  kind === 'length' ? MILLIMETRES[unit] : kind === 'angle' ? DEGREE : 1;
