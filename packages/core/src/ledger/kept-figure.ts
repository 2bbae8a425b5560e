import { readReference, type Reference } from '../references/reference.ts';
import { deviations, keepsWithin, limits, type Tolerance } from './tolerance.ts';

/** A measurement that is kept: what it is of and which of its figures it is, never the value alone. */
export interface KeptFigure {
  id: string;
  name: string;
  /** One thing, two, or a chain of more. */
  of: Reference[];
  /** Label of the figure among those of what it is of; the leading one where there is none of that label. */
  figure: string;
  /** What it was when it was kept, mm, mm², mm³ or rad, and of which revision. */
  was: number;
  revision: number;
  nominal?: number;
  tolerance?: Tolerance;
  /** sRGB, #rrggbb, where it is not the usual one. */
  colour?: string;
  /** Where its dimension was moved to, from where it would stand, px. */
  moved?: readonly [number, number];
}

export type Verdict = 'within' | 'out' | null;

/** Whether a kept figure keeps within its limits; null where none are set. */
export function verdictOf(kept: Pick<KeptFigure, 'nominal' | 'tolerance'>, value: number): Verdict {
  const bounds = limitsOf(kept);
  return bounds && (keepsWithin(value, bounds) ? 'within' : 'out');
}

/** The least and the greatest that a kept figure may be; null where none are set. */
export function limitsOf({
  nominal,
  tolerance,
}: Pick<KeptFigure, 'nominal' | 'tolerance'>): { least: number; greatest: number } | null {
  if (!tolerance || (nominal === undefined && tolerance.kind !== 'fit')) return null;
  try {
    return limits(tolerance, nominal ?? 0);
  } catch {
    // The nominal value was changed to one that the class is not made for: it says nothing then.
    return null;
  }
}

const MOST_THINGS = 50;
const LONGEST = 200;
const number = (v: unknown): v is number => typeof v === 'number' && Number.isFinite(v);

/** A kept figure from stored values; null for what no version ever wrote. */
export function readKeptFigure(values: unknown): KeptFigure | null {
  const v = (typeof values === 'object' && values !== null ? values : {}) as Record<string, unknown>;
  const of = Array.isArray(v['of']) ? v['of'].slice(0, MOST_THINGS).map(readReference) : [];
  if (typeof v['id'] !== 'string' || typeof v['name'] !== 'string' || !of.length || of.includes(null))
    return null;
  const tolerance = readStoredTolerance(v['tolerance'], v['nominal']);
  return {
    id: v['id'],
    name: v['name'].slice(0, LONGEST),
    of: of as Reference[],
    figure: String(v['figure'] ?? '').slice(0, LONGEST),
    was: number(v['was']) ? v['was'] : 0,
    revision: number(v['revision']) ? v['revision'] : 1,
    ...(number(v['nominal']) && { nominal: v['nominal'] }),
    ...(tolerance && { tolerance }),
    ...(typeof v['colour'] === 'string' && /^#[0-9a-f]{6}$/i.test(v['colour']) && { colour: v['colour'] }),
    ...(isMove(v['moved']) && { moved: v['moved'] }),
  };
}

const FARTHEST = 10_000;
const isMove = (v: unknown): v is [number, number] =>
  Array.isArray(v) && v.length === 2 && v.every((x) => number(x) && Math.abs(x) <= FARTHEST);

function readStoredTolerance(values: unknown, nominal: unknown): Tolerance | null {
  const v = (typeof values === 'object' && values !== null ? values : {}) as Record<string, unknown>;
  const classFrom = (c: unknown) => {
    const { position, grade } = (c ?? {}) as Record<string, unknown>;
    return typeof position === 'string' && number(grade) ? { position, grade } : null;
  };
  const [of, hole, shaft] = [v['of'], v['hole'], v['shaft']].map(classFrom);
  const read: Tolerance | null =
    v['kind'] === 'limits' && number(v['lower']) && number(v['upper'])
      ? { kind: 'limits', lower: v['lower'], upper: v['upper'] }
      : v['kind'] === 'class' && of
        ? { kind: 'class', of }
        : v['kind'] === 'fit' && hole && shaft && number(v['size'])
          ? { kind: 'fit', size: v['size'], hole, shaft }
          : null;
  try {
    if (read) deviations(read, number(nominal) ? nominal : 0);
    return read;
  } catch {
    return null;
  }
}
