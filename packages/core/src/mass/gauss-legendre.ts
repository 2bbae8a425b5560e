/** Nodes and weights on [−1, 1]. */
export interface Quadrature {
  nodes: readonly number[];
  weights: readonly number[];
  /**
   * Of what was taken at the nodes: weights that give its last four coefficients in Legendre
   * polynomials, the highest first.
   */
  tail: readonly (readonly number[])[];
}

const NEWTON = 100;
const TAIL = 4;

/**
 * Gauss–Legendre quadrature with n nodes, exact for polynomials of degree 2n − 1: roots of the Legendre
 * polynomial by Newton's method.
 */
export function gaussLegendre(n: number): Quadrature {
  const nodes: number[] = [];
  const weights: number[] = [];
  for (let i = 0; i < n; i++) {
    let x = Math.cos((Math.PI * (i + 3 / 4)) / (n + 1 / 2));
    let slope = 0;
    for (let step = 0; step < NEWTON; step++) {
      const [p, before] = legendre(n, x);
      slope = (n * (x * p - before)) / (x * x - 1);
      const next = x - p / slope;
      if (next === x) break;
      x = next;
    }
    nodes.push(x);
    weights.push(2 / ((1 - x * x) * slope * slope));
  }
  const tail = Array.from({ length: TAIL }, (_, i) => {
    const degree = Math.max(0, n - 1 - i);
    return nodes.map((x, k) => ((2 * degree + 1) / 2) * weights[k] * legendre(degree, x)[0]);
  });
  return { nodes, weights, tail };
}

/** The Legendre polynomial of a degree, and the one before it. */
function legendre(degree: number, x: number): [number, number] {
  let [p, before] = [1, 0];
  for (let k = 1; k <= degree; k++) [p, before] = [((2 * k - 1) * x * p - (k - 1) * before) / k, p];
  return [p, before];
}

/** Of a function with a kink, whose coefficients hardly fall, the last ones stand for all that follow. */
const SAFE = 8;

/**
 * What a rule leaves of an integral over [−1, 1], judged from how fast the coefficients fall: of a smooth
 * function they fall like a power, and the first that Gauss's rule does not see is of degree 2n (Trefethen,
 * Approximation Theory and Approximation Practice, chapter 19). Only half of that fall is counted on.
 * @param values what was taken at the nodes: from the first, each so many further on
 */
export function leftBy(
  { nodes, tail }: Quadrature,
  values: Float64Array,
  first: number,
  step: number,
): number {
  const n = nodes.length;
  const [a, b, c, d] = tail;
  let [p, q, r, s] = [0, 0, 0, 0];
  for (let i = 0, at = first; i < n; i++, at += step) {
    const x = values[at];
    p += a[i] * x;
    q += b[i] * x;
    r += c[i] * x;
    s += d[i] * x;
  }
  const last = Math.max(Math.abs(p), Math.abs(q));
  return last === 0
    ? 0
    : SAFE * last * Math.min(1, Math.sqrt(last / Math.max(Math.abs(r), Math.abs(s)))) ** (n / 2);
}
