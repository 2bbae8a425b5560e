import { multiply, transposed, type Mat4 } from '../math/mat4.ts';
import { cross, distance, dot, length, normalize, subtract, type Vec3 } from '../math/vec3.ts';
import { SAME_AFTER_MOTION, SAME_POSITION } from '../tolerances.ts';
import { addTo } from '../tables/grouped.ts';
import type { PartThings } from './part-things.ts';

/**
 * Motions that are tried at most: a part that could have been moved in more ways is symmetric, and none of
 * them is believed.
 */
const MOST_MOTIONS = 60;
/** Relative to the spread of the points: how far apart they have to be to give a direction well. */
const FAR_ENOUGH = 0.1;

/**
 * The rigid motions that lay three rare points of one part (corners, centres of circles) on points of the
 * same kind of another, at the same distances from each other. One of them is that of the part, if the part
 * was moved as a whole.
 */
export function findMotions(was: PartThings, is: PartThings): Mat4[] {
  const [old, now] = [anchorsOf(was), anchorsOf(is)];
  const rare = [...old]
    .flatMap(([kind, points]) => (now.has(kind) ? [{ points, like: now.get(kind)! }] : []))
    .sort((a, b) => a.points.length * a.like.length - b.points.length * b.like.length)
    .flatMap(({ points, like }) => points.map((at) => ({ at, like })));
  const [p] = rare;
  if (!p) return [];
  const spread = rare.reduce((most, { at }) => Math.max(most, distance(at, p.at)), 0);
  const q = rare.find(({ at }) => distance(at, p.at) > FAR_ENOUGH * spread);
  const r =
    q &&
    rare.find(
      ({ at }) => length(cross(subtract(at, p.at), subtract(q.at, p.at))) > (FAR_ENOUGH * spread) ** 2,
    );
  if (!r) return [];
  const far = (a: Vec3, b: Vec3, wanted: number) =>
    Math.abs(distance(a, b) - wanted) > SAME_POSITION + SAME_AFTER_MOTION * wanted;
  const [pq, pr, qr] = [distance(p.at, q.at), distance(p.at, r.at), distance(q.at, r.at)];
  const from = frameOf(p.at, q.at, r.at);
  const motions: Mat4[] = [];
  for (const a of p.like)
    for (const b of q.like) {
      if (far(a, b, pq)) continue;
      for (const c of r.like) {
        if (far(a, c, pr) || far(b, c, qr)) continue;
        motions.push(motionBetween(from, frameOf(a, b, c)));
        if (motions.length === MOST_MOTIONS) return motions;
      }
    }
  return motions;
}

interface Frame {
  at: Vec3;
  turn: Mat4;
}

function frameOf(p: Vec3, q: Vec3, r: Vec3): Frame {
  const x = normalize(subtract(q, p));
  const z = normalize(cross(x, subtract(r, p)));
  const y = cross(z, x);
  return { at: p, turn: [...x, 0, ...y, 0, ...z, 0, 0, 0, 0, 1] };
}

function motionBetween(from: Frame, to: Frame): Mat4 {
  const turn = multiply(to.turn, transposed(from.turn));
  const row = (k: number): Vec3 => [turn[k], turn[k + 4], turn[k + 8]];
  return [...turn.slice(0, 12), ...[0, 1, 2].map((k) => to.at[k] - dot(row(k), from.at)), 1];
}

/** Corners and centres of circles, by what meets in them: a kind of few points tells most. */
function anchorsOf(things: PartThings): Map<string, Vec3[]> {
  const found = new Map<string, Vec3[]>();
  const meeting = things.vertices.map((): string[] => []);
  for (const { facts } of things.edges) {
    const name = `${facts.curve} ${facts.length.toPrecision(5)}`;
    for (const v of new Set(facts.vertices)) meeting[v].push(name);
    if (facts.centre) addTo(found, `centre ${name} ${facts.radius?.toPrecision(5)}`, facts.centre);
  }
  things.vertices.forEach((at, v) => addTo(found, meeting[v].sort().join(', '), at));
  return found;
}
