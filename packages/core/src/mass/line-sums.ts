import type { Vec3 } from '../math/vec3.ts';
import { AREA_AGREES, KINK_LEAVES, QUADRATURE_AGREES, SUM_ROUNDING } from '../tolerances.ts';
import { leftBy, type Quadrature } from './gauss-legendre.ts';

/** Volume, 3 first moments, 6 second moments. */
export const MOMENTS = 10;
/** Where the area stands among the sums of a face. */
export const AREA = MOMENTS;
/** Where the area vector ∫ N stands: of a closed surface it is nil. */
export const VECTOR = AREA + 1;
export const SUMS = VECTOR + 3;
const POWERS = [1, 2, 2, 2, 3, 3, 3, 3, 3, 3, 0, 0, 0, 0];
const SHARES = [3, 4, 4, 4, 5, 5, 5, 5, 5, 5];

/**
 * What a face gives: its area, and ∫ x·N {1, x, y, z, xx, xy, xz, yy, yz, zz}/{3, 4, 5}, where N is the
 * normal as the parameters turn.
 */
export interface FaceSums {
  area: number;
  moments: Float64Array;
  /** ∫ N: area along each axis, mm². */
  vector: Vec3;
  /**
   * Bounds of what quadrature leaves of the area, mm², and of the first moment, mm³, relative
   * to all that was added up.
   */
  areaWithin: number;
  volumeWithin: number;
}

/** Intervals are halved until what is left is small, or this often. */
const HALVINGS = 8;
/** A halving gains far more than this where the integrand is smooth. */
const GAINS = 1 / 2;

/** Sums along curves of what lies across them. */
export class LineSums {
  readonly total = new Float64Array(SUMS);
  /** Of all that was added, without its sign. */
  readonly size = new Float64Array(SUMS);
  readonly left = new Float64Array(SUMS);
  /** What the integrand writes at a place: the sums across, and what is left of them. */
  readonly across = new Float64Array(SUMS);
  readonly acrossLeft = new Float64Array(SUMS);
  /** How far places lie from the point that all is about, so far: what moments are small beside, mm. */
  reach = 0;
  private values = new Float64Array(0);
  private readonly sum = new Float64Array(SUMS);
  private readonly sizes = new Float64Array(SUMS);
  private readonly lefts = new Float64Array(SUMS);

  /**
   * Where the rule is known to be exact. @param integrand writes `across`, and gives by
   * how much it counts there
   */
  exactly(integrand: (t: number) => number, from: number, to: number, rule: Quadrature): void {
    this.take(integrand, from, to, rule);
    this.keep();
  }

  /**
   * Halved where the rule leaves too much. @param judged sums from this on are judged; those
   * before are known to be exact
   */
  halving(
    integrand: (t: number) => number,
    from: number,
    to: number,
    rule: Quadrature,
    judged = 0,
    depth = 0,
    before = Infinity,
  ): void {
    this.take(integrand, from, to, rule);
    const off = this.judge(rule, judged);
    if (off > QUADRATURE_AGREES && depth < HALVINGS && (off > KINK_LEAVES || off < before * GAINS)) {
      const middle = (from + to) / 2;
      this.halving(integrand, from, middle, rule, judged, depth + 1, off);
      this.halving(integrand, middle, to, rule, judged, depth + 1, off);
    } else this.keep();
  }

  sums(): FaceSums {
    const bound = (k: number) => this.left[k] + SUM_ROUNDING * this.size[k];
    return {
      area: this.total[AREA],
      moments: this.total.slice(0, MOMENTS).map((x, k) => x / SHARES[k]),
      vector: [this.total[VECTOR], this.total[VECTOR + 1], this.total[VECTOR + 2]],
      areaWithin: bound(AREA),
      volumeWithin: bound(0) / 3,
    };
  }

  /** Adds w · {1, x, x·xᵀ} at a place to some sums. */
  add(into: Float64Array, px: number, py: number, pz: number, w: number): void {
    const far = Math.abs(px) + Math.abs(py) + Math.abs(pz);
    if (far > this.reach) this.reach = far;
    into[0] += w;
    into[1] += w * px;
    into[2] += w * py;
    into[3] += w * pz;
    into[4] += w * px * px;
    into[5] += w * px * py;
    into[6] += w * px * pz;
    into[7] += w * py * py;
    into[8] += w * py * pz;
    into[9] += w * pz * pz;
  }

  private take(integrand: (t: number) => number, from: number, to: number, rule: Quadrature): void {
    const { across, acrossLeft, sum, sizes, lefts } = this;
    const n = rule.nodes.length;
    if (this.values.length < n * SUMS) this.values = new Float64Array(n * SUMS);
    for (const sums of [sum, sizes, lefts]) sums.fill(0);
    const [half, middle] = [(to - from) / 2, (to + from) / 2];
    for (let i = 0; i < n; i++) {
      across.fill(0);
      acrossLeft.fill(0);
      const counts = integrand(middle + half * rule.nodes[i]) * half;
      const weight = rule.weights[i];
      for (let k = 0; k < SUMS; k++) {
        const x = counts * across[k];
        this.values[i * SUMS + k] = x;
        sum[k] += weight * x;
        sizes[k] += weight * Math.abs(x);
        lefts[k] += weight * Math.abs(counts) * acrossLeft[k];
      }
    }
  }

  /**
   * The largest share that the rule leaves of any sum, beside what the area at the farthest place would give;
   * adds to `lefts`.
   */
  private judge(rule: Quadrature, judged: number): number {
    let off = 0;
    const area = this.size[AREA] + this.sizes[AREA];
    if (area === 0) return 0;
    for (let k = judged; k < SUMS; k++) {
      const size = area * this.reach ** POWERS[k];
      const left = leftBy(rule, this.values, k, SUMS);
      this.lefts[k] += left;
      off = Math.max(off, (k === AREA ? QUADRATURE_AGREES / AREA_AGREES : 1) * (left / size));
    }
    return off;
  }

  private keep(): void {
    for (let k = 0; k < SUMS; k++) {
      this.total[k] += this.sum[k];
      this.size[k] += this.sizes[k];
      this.left[k] += this.lefts[k];
    }
  }
}
