import type { Fact, PickFacts } from '../facts/describe-pick.ts';
import { add, cross, dot, length, normalize, scale, subtract, type Vec3 } from '../math/vec3.ts';
import { ALMOST_ALONG } from '../tolerances.ts';
import { MODEL_SYSTEM, type ReferenceSystem } from '../math/axes.ts';
import type { MeasuredShape, Shape } from './measured-shape.ts';

/** What was picked makes no system, in a sentence for the user. */
export class NoSystem extends Error {
  override name = 'NoSystem';
}

/**
 * A reference system from picked things: its origin, what X runs along (or towards, where that is a point),
 * and which side Y lies on.
 * A planar face gives Z, along its outward normal, and X where nothing else does: along its longest straight
 * edge. What is not given is the model's. @throws NoSystem
 */
export function systemOf(
  origin: MeasuredShape,
  first?: MeasuredShape,
  second?: MeasuredShape,
): ReferenceSystem {
  const at = originOf(origin);
  if (origin.kind === 'plane') return systemOnPlane(origin, at, first);
  if (!first) return { ...MODEL_SYSTEM, origin: at };
  const x = wayOf(first, at, 'X');
  const towards = second ? wayOf(second, at, 'Y') : leastAlong(x);
  const across = subtract(towards, scale(x, dot(towards, x)));
  if (length(across) < ALMOST_ALONG)
    throw new NoSystem('Y would run along X. Pick something that lies across it.');
  const y = normalize(across);
  return { origin: at, x, y, z: cross(x, y) };
}

function systemOnPlane({ axis: z, datum }: Shape<'plane'>, at: Vec3, first?: MeasuredShape): ReferenceSystem {
  const way = first ? wayOf(first, at, 'X') : (datum?.along ?? leastAlong(z));
  const across = subtract(way, scale(z, dot(way, z)));
  if (length(across) < ALMOST_ALONG)
    throw new NoSystem('X would run along the normal of the face. Pick something that lies across it.');
  const x = normalize(across);
  return { origin: at, x, y: cross(z, x), z };
}

function originOf(shape: MeasuredShape): Vec3 {
  if (shape.kind === 'point') return shape.at;
  if (shape.kind === 'line' && shape.ends) return shape.ends[0];
  if (shape.kind === 'plane' && shape.datum) return shape.datum.at;
  if ('origin' in shape) return shape.origin;
  throw new NoSystem('This gives no origin. Pick a vertex, an edge, a hole or a flat face.');
}

function wayOf(shape: MeasuredShape, from: Vec3, axis: string): Vec3 {
  if (shape.kind === 'point') {
    const way = subtract(shape.at, from);
    if (length(way) === 0) throw new NoSystem(`${axis} cannot run to the origin itself. Pick another point.`);
    return normalize(way);
  }
  if ('axis' in shape) return shape.axis;
  throw new NoSystem(
    `This gives no direction for ${axis}. Pick a straight edge, a hole, a flat face or a point.`,
  );
}

/** Of the model's axes the one that runs least along a direction: of equal ones Y, then Z. */
const leastAlong = (x: Vec3): Vec3 =>
  [MODEL_SYSTEM.y, MODEL_SYSTEM.z, MODEL_SYSTEM.x].reduce((best, a) =>
    Math.abs(dot(a, x)) < Math.abs(dot(best, x)) - ALMOST_ALONG ? a : best,
  );

/** A direction of the model in a system's axes. */
export const directionIn = ({ x, y, z }: ReferenceSystem, d: Vec3): Vec3 => [dot(d, x), dot(d, y), dot(d, z)];

/** A point of the model in a system. */
export const pointIn = (system: ReferenceSystem, p: Vec3): Vec3 =>
  directionIn(system, subtract(p, system.origin));

/** A point of a system in the model. */
export const pointFrom = ({ origin, x, y, z }: ReferenceSystem, p: Vec3): Vec3 =>
  add(origin, add(scale(x, p[0]), add(scale(y, p[1]), scale(z, p[2]))));

const DELTAS = ['dX', 'dY', 'dZ'];

/** Facts told in a system: points, directions, and the parts of a distance between two points. */
export function factsIn(system: ReferenceSystem, facts: PickFacts): PickFacts {
  const point = (label: string) =>
    facts.rows.find((r) => r.label === label && r.value.kind === 'point')?.value.value as Vec3 | undefined;
  const [from, to] = [point('From'), point('To')];
  const parts = from && to ? directionIn(system, subtract(to, from)) : null;
  const told = (fact: Fact): Fact => {
    const { label, value } = fact;
    if (value.kind === 'point') return { ...fact, value: { ...value, value: pointIn(system, value.value) } };
    if (value.kind === 'direction')
      return { ...fact, value: { ...value, value: directionIn(system, value.value) } };
    const delta = DELTAS.indexOf(label);
    return parts && delta >= 0 && value.kind === 'length'
      ? { ...fact, value: { ...value, value: parts[delta] } }
      : fact;
  };
  return { ...facts, main: facts.main && told(facts.main), rows: facts.rows.map(told) };
}
