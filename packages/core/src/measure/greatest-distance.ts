import type { NearestPair } from '../math/patch-distance.ts';
import { add, distance, scale, type Vec3 } from '../math/vec3.ts';

/** Turns in which a first answer goes from one end to the point farthest from it and back. */
const TO_AND_FRO = 8;

/**
 * The two points of two sets that are farthest apart: exact for what has straight edges and flat faces, whose
 * corners they are.
 * A first answer rules most points out by how far they are from the middle of the other
 * set (triangle inequality).
 * @returns null where a set is empty
 */
export function greatestDistance(a: readonly Vec3[], b: readonly Vec3[]): NearestPair | null {
  if (!a.length || !b.length) return null;
  const farthest = (from: Vec3, among: readonly Vec3[]) =>
    among.reduce((best, p) => (distance(p, from) > distance(best, from) ? p : best));
  let best: NearestPair = { distance: -1, from: a[0], to: b[0] };
  let from = a[0];
  for (let i = 0; i < TO_AND_FRO; i++) {
    const to = farthest(from, b);
    from = farthest(to, a);
    const apart = distance(from, to);
    if (apart <= best.distance) break;
    best = { distance: apart, from, to };
  }
  const able = (points: readonly Vec3[], others: readonly Vec3[]) => {
    const middle = scale(others.reduce<Vec3>(add, [0, 0, 0]), 1 / others.length);
    const reach = Math.max(...others.map((p) => distance(p, middle)));
    return points.filter((p) => distance(p, middle) + reach >= best.distance);
  };
  const [mine, theirs] = [able(a, b), able(b, a)];
  for (const p of mine)
    for (const q of theirs) {
      const apart = distance(p, q);
      if (apart > best.distance) best = { distance: apart, from: p, to: q };
    }
  return best;
}
