import type { MassFigures } from '../geometry/part-geometry.ts';
import { determinant3, transformPoint, type Mat4 } from '../math/mat4.ts';
import { symmetricEigen3 } from '../math/eigen.ts';
import { map3, scale, subtract, type Vec3 } from '../math/vec3.ts';
import type { ReferenceSystem } from '../math/axes.ts';
import {
  combineSpread,
  matrixOf,
  placeMass,
  shiftedInertia,
  turnedInertia,
  type Matrix3,
  type Spread,
} from './combine-mass.ts';

/** A mass that somebody typed in, of a part that is bought or was weighed. */
export interface TypedMass {
  kg: number;
  /**
   * Its centre of gravity in the part's frame, mm; null for that of its shape, or the middle of its box where
   * it has no volume.
   */
  at: Vec3 | null;
}

/**
 * One component to weigh: the volume figures of its part (null where it is no closed solid), where it is, and
 * what it is made of.
 */
export interface MassInput {
  figures: MassFigures | null;
  placement: Mat4;
  /** kg/m³; null where it is not known. */
  density: number | null;
  /** mm², of the part. */
  area?: number;
  /** Goes before the density. */
  typed?: TypedMass | null;
  /** The middle of the part's box, for a typed mass of what has no volume. */
  middle?: Vec3;
  /** Whether the density was only assumed. */
  assumed?: boolean;
}

/** Mass properties of what is known of a set. kg, mm, kg·mm². */
export interface MassProperties {
  mass: number;
  /** mm³, of those among it that have a volume. */
  volume: number;
  /** mm² */
  area: number;
  centreOfGravity: Vec3;
  /** About the centre of gravity: tensor with minus the products of inertia off the diagonal. */
  inertia: Matrix3;
  /** Principal moments about the centre of gravity, the least first, and their axes. */
  principal: { moments: Vec3; axes: readonly [Vec3, Vec3, Vec3] };
  /** mm, about the principal axes. */
  radiiOfGyration: Vec3;
  accuracy: MassFigures['accuracy'];
}

export interface SetMass {
  /** Null where nothing is known. */
  known: MassProperties | null;
  /** How many have no density, and how many no volume. What has neither counts as without a volume. */
  noDensity: number;
  noVolume: number;
  /** Those weighed by a density that was only assumed: how many, and their mass in kg. */
  assumed: { count: number; mass: number };
  /**
   * Those weighed by a typed mass, and how many of them have no shape of which an inertia
   * of their own would follow.
   */
  typed: { count: number; asPoints: number };
}

const CUBIC_METRE = 1e9;
const GRAMS = 1000;
const NO_INERTIA: Matrix3 = [
  [0, 0, 0],
  [0, 0, 0],
  [0, 0, 0],
];

/** kg with the digits that a scale would show: four of grams, or grams of kilograms. */
export const massText = (kg: number): string =>
  kg < 1 ? `${(kg * GRAMS).toPrecision(4)} g` : `${kg.toFixed(3)} kg`;

/** With the digits that a density is known to; those of units that were turned into each other are none. */
export const densityText = (kgPerM3: number): string => `${Number(kgPerM3.toPrecision(6))} kg/m³`;

/** Where a mass is: kg, mm, kg·mm². */
export type PlacedMass = Spread & { mass: number };

/**
 * Null where the mass is not known. A typed mass is spread as its shape is, about its own centre; without a
 * shape it is a point.
 */
export function massOfOne({
  figures,
  placement,
  density,
  typed,
  middle = [0, 0, 0],
}: MassInput): PlacedMass | null {
  if (typed && !figures)
    return { ...POINT, mass: typed.kg, centreOfGravity: transformPoint(placement, typed.at ?? middle) };
  if (!figures || (!typed && density === null)) return null;
  const { volume, inertia, ...placed } = placeMass(figures, placement);
  const mass = typed ? typed.kg : volume * (density! / CUBIC_METRE);
  return {
    ...placed,
    mass,
    inertia: matrixOf((i) => scale(inertia[i], mass / volume)),
    ...(typed?.at && { centreOfGravity: transformPoint(placement, typed.at) }),
  };
}

const POINT: Spread = {
  volumeErrorEstimate: 0,
  centreOfGravity: [0, 0, 0],
  inertia: NO_INERTIA,
  accuracy: { kind: 'exact' },
};

/**
 * Weighs a set: each component's figures times its density, placed and added (parallel axes). What is not
 * known is counted, never assumed.
 */
export function massOfSet(items: readonly MassInput[]): SetMass {
  const found = items.map(massOfOne);
  const masses = found.filter((f) => f !== null);
  const all = combineSpread(
    masses,
    masses.map((m) => m.mass),
  );
  let [volume, area] = [0, 0];
  const assumed = { count: 0, mass: 0 };
  const typed = { count: 0, asPoints: 0 };
  items.forEach((item, i) => {
    const its = found[i];
    if (!its) return;
    const size = Math.cbrt(Math.abs(determinant3(item.placement)));
    volume += (item.figures?.volume ?? 0) * size ** 3;
    area += (item.area ?? 0) * size ** 2;
    if (item.typed) {
      typed.count++;
      if (!item.figures) typed.asPoints++;
    } else if (item.assumed) {
      assumed.count++;
      assumed.mass += its.mass;
    }
  });
  return {
    known: all && {
      mass: all.amount,
      volume,
      area,
      centreOfGravity: all.spread.centreOfGravity,
      inertia: all.spread.inertia,
      ...principalOf(all.spread.inertia, all.amount),
      accuracy: all.spread.accuracy,
    },
    noDensity: items.filter((i) => !i.typed && i.figures && i.density === null).length,
    noVolume: items.filter((i) => !i.typed && !i.figures).length,
    assumed,
    typed,
  };
}

function principalOf(inertia: Matrix3, mass: number): Pick<MassProperties, 'principal' | 'radiiOfGyration'> {
  const { values: moments, vectors: axes } = symmetricEigen3(inertia);
  return {
    principal: { moments, axes },
    radiiOfGyration: map3(moments, (m) => Math.sqrt(Math.max(0, m) / mass)),
  };
}

/** The tensor of inertia about the origin of a system, in its axes: Steiner's shift, then R·I·Rᵀ. kg·mm² */
export function inertiaIn(
  { inertia, mass, centreOfGravity }: MassProperties,
  { origin, x, y, z }: ReferenceSystem,
): Matrix3 {
  const away = subtract(centreOfGravity, origin);
  return turnedInertia(shiftedInertia(inertia, away, mass), [x, y, z]);
}

/**
 * Half axes of the ellipsoid of even density that has these principal moments: a² = 5
 * (I₂ + I₃ − I₁)/(2 m). mm
 */
export const ellipsoidOf = ({ mass, principal: { moments } }: MassProperties): Vec3 =>
  map3(moments, (m) =>
    Math.sqrt(Math.max(0, (5 * (moments[0] + moments[1] + moments[2] - 2 * m)) / (2 * mass))),
  );
