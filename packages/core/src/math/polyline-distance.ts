import { add, distance, dot, scale, subtract, type Vec3 } from './vec3.ts';

const clamp = (x: number): number => Math.max(0, Math.min(1, x));

/** The nearest points of two segments (Ericson, Real-Time Collision Detection, 5.1.9). */
export function nearestOfSegments(p1: Vec3, q1: Vec3, p2: Vec3, q2: Vec3): { from: Vec3; to: Vec3 } {
  const [d1, d2, r] = [subtract(q1, p1), subtract(q2, p2), subtract(p1, p2)];
  const [a, e, f] = [dot(d1, d1), dot(d2, d2), dot(d2, r)];
  let [s, t] = [0, 0];
  if (a === 0 && e === 0) return { from: p1, to: p2 };
  if (a === 0) t = clamp(f / e);
  else {
    const c = dot(d1, r);
    if (e === 0) s = clamp(-c / a);
    else {
      const b = dot(d1, d2);
      const denominator = a * e - b * b;
      s = denominator > 0 ? clamp((b * f - c * e) / denominator) : 0;
      t = (b * s + f) / e;
      if (t < 0) [t, s] = [0, clamp(-c / a)];
      else if (t > 1) [t, s] = [1, clamp((b - c) / a)];
    }
  }
  return { from: add(p1, scale(d1, s)), to: add(p2, scale(d2, t)) };
}

/** The least distance of two polylines; one of a single point is that point. mm. Every piece against every piece. */
export function polylineDistance(a: readonly Vec3[], b: readonly Vec3[]): { distance: number; from: Vec3; to: Vec3 } {
  let best = { distance: Infinity, from: a[0], to: b[0] };
  for (let i = 0; i < Math.max(1, a.length - 1); i++)
    for (let j = 0; j < Math.max(1, b.length - 1); j++) {
      const near = nearestOfSegments(a[i], a[Math.min(i + 1, a.length - 1)], b[j], b[Math.min(j + 1, b.length - 1)]);
      const away = distance(near.from, near.to);
      if (away < best.distance) best = { distance: away, ...near };
    }
  return best;
}
