/*
 * B-splines as ISO 10303-42 has them, with their first derivatives: Piegl & Tiller, The NURBS Book,
 * algorithms A2.2, A2.3 and A4.4.
 */

/** One parameter of a spline: its degree, and its knots, each as often as it counts. */
export interface SplineBasis {
  degree: number;
  knots: Float64Array;
}

/** A surface of nu × nv poles, xyz, the second index running faster; without weights where all are one. mm */
export interface SplineSurface {
  u: SplineBasis;
  v: SplineBasis;
  poles: Float64Array;
  weights: Float64Array | null;
}

/** A curve in the parameters of a face. */
export interface SplineCurve2 {
  basis: SplineBasis;
  /** uv */
  poles: Float64Array;
  weights: Float64Array | null;
}

/** Highest degree that any system writes, and one more. */
const MOST = 26;

/** The knots at which the pieces of a spline meet. */
export const breaksOf = ({ degree, knots }: SplineBasis): number[] => [
  ...new Set(knots.slice(degree, knots.length - degree)),
];

/**
 * Number of the knot at which the piece begins that holds at a place; beyond the ends that of
 * the first or last piece.
 */
export function spanAt({ degree: p, knots: k }: SplineBasis, t: number): number {
  let [low, high] = [p, k.length - p - 1];
  if (t >= k[high]) {
    let last = high - 1;
    while (last > p && k[last] === k[high]) last--;
    return last;
  }
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (t < k[middle]) high = middle;
    else low = middle;
  }
  return low;
}

/** Values and slopes of the basis functions that are not nil at a place. */
class Basis {
  readonly value = new Float64Array(MOST);
  readonly slope = new Float64Array(MOST);
  /** Number of the first pole that counts. */
  first = 0;
  private readonly left = new Float64Array(MOST);
  private readonly right = new Float64Array(MOST);
  private readonly lower = new Float64Array(MOST);
  private readonly basis: SplineBasis;
  private last = NaN;

  constructor(basis: SplineBasis) {
    this.basis = basis;
  }

  at(t: number): void {
    // Along a line of quadrature one of the two parameters stands still.
    if (t === this.last) return;
    this.last = t;
    this.within(spanAt(this.basis, t), t);
  }

  /** In a span of knots that is known, going on beyond it. */
  within(span: number, t: number): void {
    const { degree: p, knots: k } = this.basis;
    this.first = span - p;
    const { value, slope, left, right, lower } = this;
    value[0] = 1;
    for (let d = 1; d <= p; d++) {
      // Of one degree less, from which the slopes follow.
      if (d === p) lower.set(value.subarray(0, p));
      left[d] = t - k[span + 1 - d];
      right[d] = k[span + d] - t;
      let saved = 0;
      for (let r = 0; r < d; r++) {
        const share = value[r] / (right[r + 1] + left[d - r]);
        value[r] = saved + right[r + 1] * share;
        saved = left[d - r] * share;
      }
      value[d] = saved;
    }
    for (let r = 0; r <= p; r++) {
      const before = r > 0 ? lower[r - 1] / (k[span + r] - k[span - p + r]) : 0;
      const after = r < p ? lower[r] / (k[span + r + 1] - k[span - p + r + 1]) : 0;
      slope[r] = p * (before - after);
    }
  }
}

/** Evaluates a surface along lines of one v, within one span of u. */
export class SplineRow {
  /** Place, then along u, then along v. */
  readonly out = new Float64Array(9);
  private readonly spline: SplineSurface;
  private readonly columns: number;
  private readonly alongU: Basis;
  private readonly alongV: Basis;
  /** Poles, weighed and with their weights, and their slopes along v, for the span of u. */
  private readonly row: Float64Array;
  private readonly slopes: Float64Array;
  private span = -1;
  private v = NaN;

  constructor(spline: SplineSurface) {
    this.spline = spline;
    this.columns = spline.v.knots.length - spline.v.degree - 1;
    [this.alongU, this.alongV] = [new Basis(spline.u), new Basis(spline.v)];
    this.row = new Float64Array(4 * (spline.u.degree + 1));
    this.slopes = new Float64Array(4 * (spline.u.degree + 1));
  }

  /** @param span number of the knot at which the span begins */
  start(span: number, v: number): void {
    if (span === this.span && v === this.v) return;
    [this.span, this.v] = [span, v];
    const { alongV, row, slopes, columns } = this;
    const { u, v: basis, poles, weights } = this.spline;
    alongV.at(v);
    const { value, slope } = alongV;
    const { degree } = basis;
    // Written out, as `at` is: here a mesh is compared with its surface.
    for (let i = 0, to = 0; i <= u.degree; i++, to += 4) {
      let at = (span - u.degree + i) * columns + alongV.first;
      let x = 0;
      let y = 0;
      let z = 0;
      let w = 0;
      let vx = 0;
      let vy = 0;
      let vz = 0;
      let vw = 0;
      for (let j = 0; j <= degree; j++, at++) {
        const weight = weights ? weights[at] : 1;
        const n = value[j] * weight;
        const d = slope[j] * weight;
        const px = poles[3 * at];
        const py = poles[3 * at + 1];
        const pz = poles[3 * at + 2];
        x += n * px;
        y += n * py;
        z += n * pz;
        w += n;
        vx += d * px;
        vy += d * py;
        vz += d * pz;
        vw += d;
      }
      row[to] = x;
      row[to + 1] = y;
      row[to + 2] = z;
      row[to + 3] = w;
      slopes[to] = vx;
      slopes[to + 1] = vy;
      slopes[to + 2] = vz;
      slopes[to + 3] = vw;
    }
  }

  at(s: number): void {
    const { alongU, row, slopes, out } = this;
    const { degree } = this.spline.u;
    const { value, slope } = alongU;
    alongU.within(this.span, s);
    // Written out: this is where integrating splines spends its time.
    let [x, y, z, w] = NOTHING;
    let [ux, uy, uz, uw] = NOTHING;
    let [vx, vy, vz, vw] = NOTHING;
    for (let i = 0, k = 0; i <= degree; i++, k += 4) {
      const n = value[i];
      const d = slope[i];
      x += n * row[k];
      y += n * row[k + 1];
      z += n * row[k + 2];
      w += n * row[k + 3];
      ux += d * row[k];
      uy += d * row[k + 1];
      uz += d * row[k + 2];
      uw += d * row[k + 3];
      vx += n * slopes[k];
      vy += n * slopes[k + 1];
      vz += n * slopes[k + 2];
      vw += n * slopes[k + 3];
    }
    const by = 1 / w;
    x *= by;
    y *= by;
    z *= by;
    out[0] = x;
    out[1] = y;
    out[2] = z;
    out[3] = (ux - x * uw) * by;
    out[4] = (uy - y * uw) * by;
    out[5] = (uz - z * uw) * by;
    out[6] = (vx - x * vw) * by;
    out[7] = (vy - y * vw) * by;
    out[8] = (vz - z * vw) * by;
  }
}

const NOTHING = [0, 0, 0, 0] as const;

/** Place and both derivatives at a parameter: x, y, z, then along u, then along v. */
export function surfaceEvaluator(spline: SplineSurface): (s: number, t: number, out: Float64Array) => void {
  const row = new SplineRow(spline);
  return (s, t, out) => {
    row.start(spanAt(spline.u, s), t);
    row.at(s);
    out.set(row.out);
  };
}

/** The same surface with its parameters exchanged. */
export function exchanged({ u, v, poles, weights }: SplineSurface): SplineSurface {
  const [rows, columns] = [u.knots.length - u.degree - 1, v.knots.length - v.degree - 1];
  const turn = (values: Float64Array, size: number) => {
    const turned = new Float64Array(values.length);
    for (let i = 0; i < rows; i++)
      for (let j = 0; j < columns; j++)
        for (let k = 0; k < size; k++)
          turned[size * (j * rows + i) + k] = values[size * (i * columns + j) + k];
    return turned;
  };
  return { u: v, v: u, poles: turn(poles, 3), weights: weights && turn(weights, 1) };
}

/** Place and derivative of a curve in the parameters of a face. */
export function curveEvaluator({
  basis,
  poles,
  weights,
}: SplineCurve2): (t: number) => readonly [u: number, v: number, du: number, dv: number] {
  const a = new Basis(basis);
  return (t) => {
    a.at(t);
    let [u, v, w, du, dv, dw] = [0, 0, 0, 0, 0, 0];
    for (let i = 0; i <= basis.degree; i++) {
      const at = a.first + i;
      const weight = weights ? weights[at] : 1;
      const [n, d] = [a.value[i] * weight, a.slope[i] * weight];
      u += n * poles[2 * at];
      v += n * poles[2 * at + 1];
      w += n;
      du += d * poles[2 * at];
      dv += d * poles[2 * at + 1];
      dw += d;
    }
    return [u / w, v / w, (du - (u / w) * dw) / w, (dv - (v / w) * dw) / w];
  };
}

/** Whether weights do not change along u: then a surface is polynomial along it. */
export function isPolynomialAlongU({ u, v, weights }: SplineSurface): boolean {
  if (!weights) return true;
  const columns = v.knots.length - v.degree - 1;
  const rows = u.knots.length - u.degree - 1;
  for (let i = 1; i < rows; i++)
    for (let j = 0; j < columns; j++) if (weights[i * columns + j] !== weights[j]) return false;
  return true;
}
