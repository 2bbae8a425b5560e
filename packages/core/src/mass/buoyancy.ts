import { addScaled, cross, dot, length, normalize, scale, subtract, type Vec3 } from '../math/vec3.ts';
import { rotate, rotationAbout } from '../math/quaternion.ts';
import { SAME_POSITION } from '../tolerances.ts';
import { GRAVITY } from './balance.ts';

/** Something under water. kg, mm, mm³. */
export interface Immersed {
  mass: number;
  centreOfGravity: Vec3;
  /** What of water it takes the place of. */
  displaced: number;
  /** How far that may be off; nothing where it is exact. */
  within?: number;
  centreOfBuoyancy: Vec3;
}

/** What the fluid does with it. N, mm, N·mm, rad. */
export interface Afloat {
  weight: number;
  lift: number;
  /** How far lift and net may be off. */
  within: number;
  /** Above 0: it rises. */
  net: number;
  /**
   * From the plumb line of the centre of gravity to that of the centre of buoyancy, in the attitude it has.
   */
  lever: number;
  /** How far the centre of buoyancy lies above that of gravity: above 0 it rights itself. */
  above: number;
  /**
   * By which angle it turns until the centre of buoyancy stands over that of gravity; where the
   * two are one place, none.
   */
  trim: number;
}

const CUBIC_METRE = 1e9;

/** Archimedes: lift is the weight of the fluid whose place is taken. @param fluid kg/m³ @param up unit */
export function afloat(
  { mass, centreOfGravity, displaced, within = 0, centreOfBuoyancy }: Immersed,
  fluid: number,
  up: Vec3,
): Afloat {
  const weight = mass * GRAVITY;
  const liftOf = (volume: number) => (volume / CUBIC_METRE) * fluid * GRAVITY;
  const lift = liftOf(displaced);
  const d = subtract(centreOfBuoyancy, centreOfGravity);
  const above = dot(d, up);
  const lever = length(addScaled(d, up, -above));
  const trim = Math.hypot(lever, above) <= SAME_POSITION ? 0 : Math.atan2(lever, above);
  return { weight, lift, within: liftOf(within), net: lift - weight, lever, above, trim };
}

/** What something takes the place of where it floats: its weight in the fluid. mm³ @param fluid kg/m³ */
export const displacedAfloat = (mass: number, fluid: number): number => (mass / fluid) * CUBIC_METRE;

/**
 * The righting arm of something wholly under water when it is tilted about a level axis: how far the plumb
 * lines of the two centres are apart, above 0 where that turns it back. Under water it is a turn of one
 * vector: level·cos + above·sin.
 * @param axis unit, level @returns mm for each angle
 */
export function rightingArms(
  { centreOfGravity, centreOfBuoyancy }: Immersed,
  up: Vec3,
  axis: Vec3,
  angles: readonly number[],
): number[] {
  const d = subtract(centreOfBuoyancy, centreOfGravity);
  return angles.map((angle) => {
    const turned = rotate(rotationAbout(axis, angle), d);
    // Tilted by a positive angle its top leans towards axis × up; lift that acts farther that way
    // than weight turns it back.
    return dot(turned, normalize(cross(axis, up)));
  });
}

/** Nothing of the given density makes it neutral, in a sentence for the user. */
export class NoBallast extends Error {
  override name = 'NoBallast';
}

/** How much of a material makes something neutral, where it is put, and what it becomes then. */
export interface Ballast {
  kg: number;
  /** mm³ */
  volume: number;
  /** How far both may be off. */
  within: { kg: number; volume: number };
  with: Immersed;
}

/**
 * The ballast, or the buoyancy foam, that makes something neutral: M + m = ρ (V + m/ρb).
 * @param at where its own centre lies, mm @param density of the ballast, kg/m³ @throws NoBallast
 */
export function neutralBallast(body: Immersed, fluid: number, density: number, at: Vec3): Ballast {
  const excess = (body.displaced / CUBIC_METRE) * fluid - body.mass;
  if (density === fluid)
    throw new NoBallast(
      'A material as dense as the fluid changes nothing. Choose a heavier or a lighter one.',
    );
  const needed = (kg: number) => kg / (1 - fluid / density) + 0;
  const volumeOf = (kg: number) => (kg / density) * CUBIC_METRE;
  const kg = needed(excess);
  if (kg < 0)
    throw new NoBallast(
      excess > 0
        ? 'It rises, so what is added must be denser than the fluid. Choose a heavier material.'
        : 'It sinks, so what is added must be lighter than the fluid. Choose a foam, or take weight away.',
    );
  const off = Math.abs(needed(((body.within ?? 0) / CUBIC_METRE) * fluid));
  return {
    kg,
    volume: volumeOf(kg),
    within: { kg: off, volume: volumeOf(off) },
    with: joined(body, kg, volumeOf(kg), at),
  };
}

function joined(body: Immersed, kg: number, volume: number, at: Vec3): Immersed {
  const mean = (a: Vec3, wa: number, b: Vec3, wb: number): Vec3 =>
    scale(addScaled(scale(a, wa), b, wb), 1 / (wa + wb));
  return {
    mass: body.mass + kg,
    centreOfGravity: mean(body.centreOfGravity, body.mass, at, kg),
    displaced: body.displaced + volume,
    centreOfBuoyancy: mean(body.centreOfBuoyancy, body.displaced, at, volume),
  };
}
