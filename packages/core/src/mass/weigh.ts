import type { MassFigures } from '../geometry/part-geometry.ts';
import type { Mat4 } from '../math/mat4.ts';
import { symmetricEigen } from '../math/eigen.ts';
import type { Vec3 } from '../math/vec3.ts';
import { combineMass, placeMass } from './combine-mass.ts';

/** One component to weigh: the volume figures of its part (null where it is no closed solid), where it is, and its density. */
export interface Weighable {
  figures: MassFigures | null;
  placement: Mat4;
  /** kg/m³; null where it is not known. */
  density: number | null;
}

/** Mass properties of what is known of a set. kg, mm, kg·mm². */
export interface Weight {
  mass: number;
  /** mm³ */
  volume: number;
  centreOfGravity: Vec3;
  /** About the centre of gravity: tensor with minus the products of inertia off the diagonal. */
  inertia: readonly [Vec3, Vec3, Vec3];
  /** Principal moments about the centre of gravity, the least first, and their axes. */
  principal: { moments: Vec3; axes: readonly [Vec3, Vec3, Vec3] };
  /** mm, about the principal axes. */
  radiiOfGyration: Vec3;
  accuracy: MassFigures['accuracy'];
}

export interface Weighed {
  /** Null where nothing is known. */
  known: Weight | null;
  /** How many have no density, and how many no volume. What has neither counts as without a volume. */
  noDensity: number;
  noVolume: number;
}

const CUBIC_METRE = 1e9;
const GRAMS = 1000;

/** kg with the digits that a scale would show: four of grams, or grams of kilograms. */
export const massText = (kg: number): string => (kg < 1 ? `${(kg * GRAMS).toPrecision(4)} g` : `${kg.toFixed(3)} kg`);

/** Weighs a set: each component's figures times its density, placed and added (parallel axes). What is not known is counted, never assumed. */
export function weigh(items: readonly Weighable[]): Weighed {
  const known = items.flatMap(({ figures, placement, density }) =>
    figures && density !== null ? [{ placed: placeMass(figures, placement), kg: density / CUBIC_METRE }] : [],
  );
  // The same sums with masses as weights.
  const all = combineMass(
    known.map(({ placed, kg }) => ({
      ...placed,
      volume: placed.volume * kg,
      inertia: placed.inertia.map((row) => row.map((x) => x * kg)) as unknown as MassFigures['inertia'],
    })),
  );
  return {
    known: all && {
      mass: all.volume,
      volume: known.reduce((sum, { placed }) => sum + placed.volume, 0),
      centreOfGravity: all.centreOfGravity,
      inertia: all.inertia,
      ...principalOf(all),
      accuracy: all.accuracy,
    },
    noDensity: items.filter((i) => i.figures && i.density === null).length,
    noVolume: items.filter((i) => !i.figures).length,
  };
}

function principalOf({ inertia, volume: mass }: MassFigures): Pick<Weight, 'principal' | 'radiiOfGyration'> {
  const { values, vectors } = symmetricEigen(inertia);
  const moments = values as unknown as Vec3;
  return {
    principal: { moments, axes: vectors as unknown as Weight['principal']['axes'] },
    radiiOfGyration: moments.map((m) => Math.sqrt(Math.max(0, m) / mass)) as unknown as Vec3,
  };
}
