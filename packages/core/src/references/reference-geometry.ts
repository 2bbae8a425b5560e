import { z } from 'zod';
import { ROUNDING, TINY } from '../tolerances.ts';
import { fromOf, type Reference } from './reference.ts';
import { anything, label, listOf, vector } from '../model/described.ts';
import { isValues } from '../tables/own.ts';
import { boxSize, type Box3 } from '../math/box3.ts';
import {
  add,
  addScaled,
  cross,
  dot,
  length,
  map3,
  normalize,
  scale,
  subtract,
  vecOf,
  type Vec3,
} from '../math/vec3.ts';

/** A plane of one's own: where it is and how large it is drawn. */
export interface ReferencePlane {
  id: string;
  name: string;
  origin: Vec3;
  /** Unit. */
  normal: Vec3;
  /** How it came about, in words. */
  made: string;
  /** What it was made from. */
  from?: Reference;
}

export interface ReferenceAxis {
  id: string;
  name: string;
  origin: Vec3;
  /** Unit. */
  direction: Vec3;
  made: string;
  from?: Reference;
}

/** A box of given size, a crate or a build volume, that the model is checked against. */
export interface Envelope {
  /** mm along X, Y and Z as placed. */
  size: Vec3;
  /** Lowest corner; null to sit around the middle of the model. */
  at: Vec3 | null;
}

/** Names of what is there without being made. */
export const FIXED_REFERENCES = [
  'origin',
  'plane xy',
  'plane xz',
  'plane yz',
  'axis x',
  'axis y',
  'axis z',
  'triad',
  'grid',
  'hole axes',
  'envelope',
] as const;
export type FixedReference = (typeof FIXED_REFERENCES)[number];

export const FIXED_NAMES: Record<FixedReference, string> = {
  origin: 'Origin',
  'plane xy': 'Plane XY',
  'plane xz': 'Plane XZ',
  'plane yz': 'Plane YZ',
  'axis x': 'Axis X',
  'axis y': 'Axis Y',
  'axis z': 'Axis Z',
  triad: 'Axis triad',
  grid: 'Ground grid',
  'hole axes': 'Axes of all holes',
  envelope: 'Envelope',
};

/** The reference geometry of a model: what is one's own, and which of all is shown, by id. */
export interface ReferenceGeometry {
  planes: ReferencePlane[];
  axes: ReferenceAxis[];
  envelope: Envelope | null;
  shown: string[];
}

export const NO_REFERENCES: ReferenceGeometry = { planes: [], axes: [], envelope: null, shown: ['triad'] };

const named = { id: label(), name: label(), made: label(), from: anything };
const direction = vector.refine((v) => length(v) > 0).transform(normalize);
const plane = z
  .object({ ...named, origin: vector, normal: direction })
  .transform(({ from, ...rest }): ReferencePlane => ({ ...rest, ...fromOf(from) }));
const axis = z
  .object({ ...named, origin: vector, direction })
  .transform(({ from, ...rest }): ReferenceAxis => ({ ...rest, ...fromOf(from) }));
const envelope = z.object({
  size: vector.refine((size) => size.every((x) => x > 0)),
  at: vector.nullable().catch(null),
});
const geometry = z.object({
  planes: listOf(plane),
  axes: listOf(axis),
  envelope: envelope.nullable().catch(null),
  shown: z.array(z.unknown().transform(String)).catch([...NO_REFERENCES.shown]),
});

/** Reference geometry from stored values; what is incomplete is left out. */
export function readReferenceGeometry(values: unknown): ReferenceGeometry {
  return geometry.parse(isValues(values) ? values : {});
}

/** The plane through three points. @throws RangeError with a sentence when they lie on a line */
export function planeThroughPoints(a: Vec3, b: Vec3, c: Vec3): { origin: Vec3; normal: Vec3 } {
  const [u, v] = [subtract(b, a), subtract(c, a)];
  const n = cross(u, v);
  if (length(n) <= ROUNDING * length(u) * length(v) || length(u) === 0)
    throw new RangeError('The three points lie on one line; pick three that span a plane.');
  return { origin: scale(add(add(a, b), c), 1 / 3), normal: normalize(n) };
}

/** The axis through two points. @throws RangeError with a sentence when they coincide */
export function axisThroughPoints(a: Vec3, b: Vec3): { origin: Vec3; direction: Vec3 } {
  const d = subtract(b, a);
  if (length(d) < ROUNDING) throw new RangeError('The two points are the same; pick two that are apart.');
  return { origin: a, direction: normalize(d) };
}

/** A plane moved along its normal, mm. */
export const offsetPlane = (
  p: { origin: Vec3; normal: Vec3 },
  by: number,
): { origin: Vec3; normal: Vec3 } => ({
  origin: addScaled(p.origin, p.normal, by),
  normal: p.normal,
});

export interface EnvelopeCheck {
  /** mm that remain on each axis of the model, X Y Z; negative: sticks out by so much. */
  asPlaced: Vec3;
  fitsAsPlaced: boolean;
  /**
   * The best of the six axis-aligned turns: which side of the envelope each axis of the model lies
   * along, and what remains.
   */
  best: { sides: readonly [number, number, number]; spare: Vec3; fits: boolean };
}

const TURNS = [
  [0, 1, 2],
  [0, 2, 1],
  [1, 0, 2],
  [1, 2, 0],
  [2, 0, 1],
  [2, 1, 0],
] as const;

/**
 * Whether a model's box fits an envelope: where it stands (by size alone when the envelope has no place), and
 * in the best axis-aligned turn.
 */
export function checkEnvelope(model: Box3, envelope: Envelope): EnvelopeCheck {
  const size = boxSize(model);
  const { at } = envelope;
  const asPlaced = vecOf((k) =>
    at ? Math.min(model.min[k] - at[k], at[k] + envelope.size[k] - model.max[k]) : envelope.size[k] - size[k],
  );
  const spareOf = (turn: readonly [number, number, number]): Vec3 =>
    map3(turn, (side, k) => envelope.size[side] - size[k]);
  const best = TURNS.reduce<(typeof TURNS)[number]>(
    (b, t) => (Math.min(...spareOf(t)) > Math.min(...spareOf(b)) + ROUNDING ? t : b),
    TURNS[0],
  );
  const spare = spareOf(best);
  return {
    asPlaced,
    fitsAsPlaced: Math.min(...asPlaced) >= -ROUNDING,
    best: { sides: best, spare, fits: Math.min(...spare) >= -ROUNDING },
  };
}

/**
 * A round step of the ground grid for a model of this size: 1, 2 or 5 times a power of
 * ten, about a fiftieth of it.
 */
export function gridStep(size: number): number {
  const raw = Math.max(size, TINY) / 50;
  const power = 10 ** Math.floor(Math.log10(raw));
  return [1, 2, 5, 10].map((f) => f * power).find((s) => s >= raw * (1 - ROUNDING))!;
}

/** Signed distance of a point from a plane, mm. */
export const planeDistance = (p: { origin: Vec3; normal: Vec3 }, point: Vec3): number =>
  dot(subtract(point, p.origin), p.normal);
