/** Nodes and weights on [−1, 1]. */
export interface Quadrature {
  nodes: readonly number[];
  weights: readonly number[];
}

const NEWTON = 100;

/** Gauss–Legendre quadrature with n nodes, exact for polynomials of degree 2n − 1: roots of the Legendre polynomial by Newton's method. */
export function gaussLegendre(n: number): Quadrature {
  const nodes: number[] = [];
  const weights: number[] = [];
  for (let i = 0; i < n; i++) {
    let x = Math.cos((Math.PI * (i + 3 / 4)) / (n + 1 / 2));
    let slope = 0;
    for (let step = 0; step < NEWTON; step++) {
      let [p, before] = [1, 0];
      for (let k = 1; k <= n; k++) [p, before] = [((2 * k - 1) * x * p - (k - 1) * before) / k, p];
      slope = (n * (x * p - before)) / (x * x - 1);
      const next = x - p / slope;
      if (next === x) break;
      x = next;
    }
    nodes.push(x);
    weights.push(2 / ((1 - x * x) * slope * slope));
  }
  return { nodes, weights };
}
