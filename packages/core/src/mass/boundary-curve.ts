/**
 * A piece of a face's boundary in its parameters, as it runs round the face: with what is inside on its left.
 */
export type BoundaryCurve =
  | { shape: 'line'; from: readonly [number, number]; to: readonly [number, number] }
  /** centre + cos t · a + sin t · b */
  | {
      shape: 'conic';
      centre: readonly [number, number];
      a: readonly [number, number];
      b: readonly [number, number];
      from: number;
      to: number;
    }
  /** Place and derivative at a parameter. */
  | {
      shape: 'free';
      at: (t: number) => readonly [u: number, v: number, du: number, dv: number];
      from: number;
      to: number;
      /** Parameters at which its pieces meet. */
      breaks?: readonly number[];
    };

/** Conics are taken in pieces of at most a quarter turn. */
const PIECE = Math.PI / 2;

/** The parameters between which a curve runs, in its direction. */
export const rangeOf = (curve: BoundaryCurve): readonly [number, number] =>
  curve.shape === 'line' ? [0, 1] : [curve.from, curve.to];

/** u, v and their derivatives along a curve. */
export type Place = (t: number) => readonly [u: number, v: number, du: number, dv: number];

export function placeOn(curve: BoundaryCurve): Place {
  if (curve.shape === 'free') return curve.at;
  if (curve.shape === 'line') {
    const [[u, v], [u1, v1]] = [curve.from, curve.to];
    const [du, dv] = [u1 - u, v1 - v];
    return (t) => [u + t * du, v + t * dv, du, dv];
  }
  const { centre, a, b } = curve;
  return (t) => {
    const [c, s] = [Math.cos(t), Math.sin(t)];
    return [
      centre[0] + c * a[0] + s * b[0],
      centre[1] + c * a[1] + s * b[1],
      c * b[0] - s * a[0],
      c * b[1] - s * a[1],
    ];
  };
}

/** Its smooth pieces in its direction, by their ends. */
export function piecesOf(curve: BoundaryCurve): (readonly [number, number])[] {
  const [from, to] = rangeOf(curve);
  if (curve.shape === 'conic') {
    const count = Math.max(1, Math.ceil(Math.abs(to - from) / PIECE));
    const at = (i: number) => (i === count ? to : from + (i * (to - from)) / count);
    return Array.from({ length: count }, (_, i) => [at(i), at(i + 1)] as const);
  }
  return cutAt((curve.shape === 'free' && curve.breaks) || [], from, to);
}

/** A way from one parameter to another, cut at those of some that lie between. */
export function cutAt(breaks: readonly number[], from: number, to: number): (readonly [number, number])[] {
  const [low, high] = [Math.min(from, to), Math.max(from, to)];
  const inner = [...new Set(breaks.filter((t) => t > low && t < high))].sort((a, b) =>
    from < to ? a - b : b - a,
  );
  const ends = [from, ...inner, to];
  return ends.slice(1).map((end, i) => [ends[i], end] as const);
}
