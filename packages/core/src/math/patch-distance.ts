import { crossingOf } from './plane.ts';
import { add, addScaled, cross, distance, dot, scale, subtract, vecOf, type Vec3 } from './vec3.ts';

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
  // Of lines that are nearly parallel the crossing is ill determined; then the nearest pair is
  // at an end of one of them.
  const at = (s1: number, t2: number) => ({ from: add(p1, scale(d1, s1)), to: add(p2, scale(d2, t2)) });
  const onto = (p: Vec3, from: Vec3, d: Vec3, dd: number) =>
    dd === 0 ? 0 : clamp(dot(subtract(p, from), d) / dd);
  const pairs = [
    at(s, t),
    at(0, onto(p1, p2, d2, e)),
    at(1, onto(q1, p2, d2, e)),
    at(onto(p2, p1, d1, a), 0),
    at(onto(q2, p1, d1, a), 1),
  ];
  return pairs.reduce((best, pair) =>
    distance(pair.from, pair.to) < distance(best.from, best.to) ? pair : best,
  );
}

/** A curve in chains of points, a single one being a point; or a surface, three corners a triangle. mm */
export type Patch = { chains: readonly (readonly Vec3[])[] } | { triangles: readonly Vec3[] };

export interface NearestPair {
  distance: number;
  from: Vec3;
  to: Vec3;
}

/**
 * How many segments or triangles a thing has: its cost for `patchDistance`, about 0.1 ms each for two things
 * of some hundred that face each other.
 */
export const piecesIn = (p: Patch): number =>
  'triangles' in p ? p.triangles.length / 3 : p.chains.reduce((n, c) => n + Math.max(1, c.length - 1), 0);

interface Boxed {
  min: Vec3;
  max: Vec3;
}

/** A segment (two corners) or a triangle (three), with its box. */
interface Piece extends Boxed {
  corners: readonly Vec3[];
}

/** Pieces under a common box, halved where its longest side is. */
interface Branch extends Boxed {
  /** Two of them, or none where `pieces` are few enough. */
  halves: Branch[];
  pieces: Piece[];
}

const FEW = 4;

/**
 * The least distance of two curves or surfaces, and where it is; 0 where they meet. Down both trees of boxes,
 * the nearer halves first; what is further apart than the best so far is left out.
 * @returns null where one of them is empty
 */
export function patchDistance(a: Patch, b: Patch): NearestPair | null {
  const [as, bs] = [piecesOf(a), piecesOf(b)];
  if (!as.length || !bs.length) return null;
  let best: NearestPair = { distance: Infinity, from: as[0].corners[0], to: bs[0].corners[0] };
  const search = (p: Branch, q: Branch): void => {
    if (gapSquared(p, q) >= best.distance ** 2) return;
    if (!p.halves.length && !q.halves.length) {
      for (const one of p.pieces)
        for (const other of q.pieces) {
          if (gapSquared(one, other) >= best.distance ** 2) continue;
          const near = nearestOfPieces(one.corners, other.corners);
          if (near.distance < best.distance) best = near;
        }
      return;
    }
    const divide = p.halves.length && (!q.halves.length || sizeOf(p) >= sizeOf(q));
    const pairs = divide ? p.halves.map((h) => [h, q] as const) : q.halves.map((h) => [p, h] as const);
    for (const [x, y] of pairs.sort((u, v) => gapSquared(...u) - gapSquared(...v))) search(x, y);
  };
  search(branchOf(as), branchOf(bs));
  return best;
}

function branchOf(pieces: Piece[]): Branch {
  const bound = (take: 'min' | 'max', k: number) =>
    pieces.reduce(
      (m, p) => (take === 'min' ? Math.min(m, p.min[k]) : Math.max(m, p.max[k])),
      take === 'min' ? Infinity : -Infinity,
    );
  const [min, max] = (['min', 'max'] as const).map((take) => vecOf((k) => bound(take, k)));
  if (pieces.length <= FEW) return { min, max, halves: [], pieces };
  const k = [0, 1, 2].reduce(
    (longest, i) => (max[i] - min[i] > max[longest] - min[longest] ? i : longest),
    0,
  );
  const sorted = [...pieces].sort((p, q) => p.min[k] + p.max[k] - q.min[k] - q.max[k]);
  const middle = sorted.length >> 1;
  return {
    min,
    max,
    halves: [branchOf(sorted.slice(0, middle)), branchOf(sorted.slice(middle))],
    pieces: [],
  };
}

const sizeOf = ({ min, max }: Boxed): number => Math.max(max[0] - min[0], max[1] - min[1], max[2] - min[2]);

function piecesOf(patch: Patch): Piece[] {
  const piece = (corners: readonly Vec3[]): Piece => ({
    corners,
    min: vecOf((k) => Math.min(...corners.map((c) => c[k]))),
    max: vecOf((k) => Math.max(...corners.map((c) => c[k]))),
  });
  if ('triangles' in patch)
    return Array.from({ length: Math.floor(patch.triangles.length / 3) }, (_, i) =>
      piece(patch.triangles.slice(3 * i, 3 * i + 3)),
    );
  return patch.chains.flatMap((chain) =>
    chain.length === 1 ? [piece([chain[0], chain[0]])] : chain.slice(1).map((to, i) => piece([chain[i], to])),
  );
}

function gapSquared(a: Boxed, b: Boxed): number {
  let sum = 0;
  for (let k = 0; k < 3; k++) sum += Math.max(0, a.min[k] - b.max[k], b.min[k] - a.max[k]) ** 2;
  return sum;
}

/**
 * Of segments and triangles: between sides, between corners and insides, or where a side
 * passes through an inside.
 */
function nearestOfPieces(a: readonly Vec3[], b: readonly Vec3[]): NearestPair {
  let best: NearestPair = { distance: Infinity, from: a[0], to: b[0] };
  const take = (from: Vec3, to: Vec3) => {
    const away = distance(from, to);
    if (away < best.distance) best = { distance: away, from, to };
  };
  for (const [p, q] of sidesOf(a))
    for (const [r, s] of sidesOf(b)) {
      const { from, to } = nearestOfSegments(p, q, r, s);
      take(from, to);
    }
  if (b.length === 3) {
    for (const p of a) take(p, onInside(p, b) ?? b[0]);
    for (const [p, q] of sidesOf(a)) {
      const through = crossing(p, q, b);
      if (through) take(through, through);
    }
  }
  if (a.length === 3) {
    for (const p of b) take(onInside(p, a) ?? a[0], p);
    for (const [p, q] of sidesOf(b)) {
      const through = crossing(p, q, a);
      if (through) take(through, through);
    }
  }
  return best;
}

const sidesOf = (corners: readonly Vec3[]): [Vec3, Vec3][] =>
  corners.length === 2 ? [[corners[0], corners[1]]] : corners.map((c, i) => [c, corners[(i + 1) % 3]]);

/**
 * The foot of the perpendicular on a triangle, where it lies within (Ericson, Real-Time Collision Detection,
 * 3.4, barycentric coordinates).
 */
function onInside(p: Vec3, [a, b, c]: readonly Vec3[]): Vec3 | null {
  const [u, v, w] = [subtract(b, a), subtract(c, a), subtract(p, a)];
  const [uu, uv, vv, wu, wv] = [dot(u, u), dot(u, v), dot(v, v), dot(w, u), dot(w, v)];
  const denominator = uu * vv - uv * uv;
  if (denominator <= 0) return null;
  const [s, t] = [(vv * wu - uv * wv) / denominator, (uu * wv - uv * wu) / denominator];
  return s >= 0 && t >= 0 && s + t <= 1 ? add(a, add(scale(u, s), scale(v, t))) : null;
}

/** Where a segment passes through a triangle. */
function crossing(p: Vec3, q: Vec3, triangle: readonly Vec3[]): Vec3 | null {
  const [a, b, c] = triangle;
  const normal = cross(subtract(b, a), subtract(c, a));
  const [dp, dq] = [dot(subtract(p, a), normal), dot(subtract(q, a), normal)];
  if (dp * dq > 0 || dp === dq) return null;
  return onInside(addScaled(p, subtract(q, p), crossingOf(dp, dq)), triangle);
}
