import { ALONG_PARAMETER, AREA_AGREES, QUADRATURE_AGREES } from '../tolerances.ts';
import { cutAt, piecesOf, placeOn, rangeOf, type BoundaryCurve, type Place } from './boundary-curve.ts';
import { gaussLegendre, leftBy, type Quadrature } from './gauss-legendre.ts';
import { AREA, LineSums, SUMS, VECTOR, type FaceSums } from './line-sums.ts';
import { HIGH, type Patch } from './patch.ts';

/*
 * Sums over a trimmed face of a B-spline, or of any surface that is smooth between breaks; these are called
 * knots here. By Green's theorem ∬ f du dv = ∮ (∫ f du) dv; between two knots the integrands are smooth,
 * across knots they are not. So the integral along u is split at the knots: a piece of the boundary that lies
 * in one column of knots is integrated from the column's left side only, and the columns on its left are kept
 * as spans of v, each with the number of times that it counts. What pieces on both sides of a face add and
 * take away there cancels, and what remains are the parts of columns that lie within the boundary: whole
 * rectangles, on which Gauss's rule does both parameters at once.
 */

/** Along the boundary. */
const ALONG_CURVE = gaussLegendre(12);
/** For curves of many pieces. */
const SHORT = gaussLegendre(7);
const MANY = 8;
/** For strips that are so slim that the square of their width is nothing. */
const SLIM = gaussLegendre(1);
const SLIM_ALONG = gaussLegendre(3);
const HALVINGS = 5;
const BISECTIONS = 60;

export function integratePatch(patch: Patch, boundary: readonly BoundaryCurve[]): FaceSums {
  const places = boundary.map(placeOn).map((at) => (patch.turned ? turned(at) : at));
  const face = new PatchFace(patch, withLines(patch.u.breaks, boundary, places));
  boundary.forEach((curve, i) => face.along(curve, places[i]));
  const sums = face.sums();
  // Exchanged, both the normal and the way round the face are turned: of the area only one counts.
  return patch.turned ? { ...sums, area: -sums.area } : sums;
}

/**
 * Columns may begin anywhere: where the boundary runs along a line of one u, too,
 * nothing is left beside them.
 */
function withLines(
  breaks: readonly number[],
  boundary: readonly BoundaryCurve[],
  places: readonly Place[],
): number[] {
  const near = ALONG_PARAMETER * (breaks[breaks.length - 1] - breaks[0]);
  const all = [...breaks];
  boundary.forEach((curve, i) => {
    const [from, to] = rangeOf(curve);
    const u = places[i]((from + to) / 2)[0];
    if (staysAt(places[i], 0, u, from, to, near) && !all.some((x) => Math.abs(x - u) <= near)) all.push(u);
  });
  return all.sort((a, b) => a - b);
}

/** Places between the ends at which a curve is looked at: more than the degree of most. */
const LOOKS = 6;

function staysAt(at: Place, which: 0 | 1, value: number, from: number, to: number, near: number): boolean {
  for (let i = 0; i <= LOOKS; i++)
    if (Math.abs(at(from + (i / LOOKS) * (to - from))[which] - value) > near) return false;
  return true;
}

class PatchFace {
  private readonly lines = new LineSums();
  private readonly row: Patch['row'];
  private readonly us: readonly number[];
  private readonly vs: readonly number[];
  /** Number of the knot at which each column begins. */
  private readonly spans: readonly number[];
  private readonly alongU: Patch['u'];
  private readonly alongV: Patch['v'];
  /** For each column where what counts in it changes, by v. */
  private readonly steps: Map<number, number>[];
  /** The most area that a place gives so far: beside an apex it is nothing, and so is what is left of it. */
  private densest = 0;
  /** While a strip is taken that is slim along v. */
  private coarse = false;
  /** Widths of strips that are slim, along each parameter. */
  private readonly near: number;
  private readonly slim: number;
  private readonly pieces: { column: number; at: Place; from: number; to: number; rule: Quadrature }[] = [];
  private readonly scratch = Array.from({ length: HALVINGS + 1 }, () => new Float64Array(SUMS));
  private readonly sampled = new Float64Array(2 * HIGH.nodes.length);

  constructor({ u, v, row, spanOf }: Patch, columns: readonly number[]) {
    this.row = row;
    [this.us, this.vs] = [columns, v.breaks];
    this.spans = this.us.map(spanOf);
    this.near = ALONG_PARAMETER * (columns[columns.length - 1] - columns[0]);
    this.slim = ALONG_PARAMETER * (this.vs[this.vs.length - 1] - this.vs[0]);
    [this.alongU, this.alongV] = [u, v];
    this.steps = this.us.slice(1).map(() => new Map());
  }

  along(curve: BoundaryCurve, at: Place): void {
    if (curve.shape === 'line' && at(0)[1] === at(1)[1]) return;
    const pieces = piecesOf(curve);
    const rule = pieces.length > MANY ? SHORT : ALONG_CURVE;
    for (const [from, to] of pieces) this.piece(at, from, to, rule);
  }

  /** The large parts first, so that the noise of boundaries which run along knots is judged beside them. */
  sums(): FaceSums {
    const cells = this.steps.flatMap((steps, column) => this.cellsOf(column, steps));
    cells.sort((a, b) => Math.abs(b.high - b.low) - Math.abs(a.high - a.low));
    for (const { column, low, high, counts } of cells) {
      const [left, right] = [this.us[column], this.us[column + 1]];
      const integrand = (v: number) => {
        this.over(column, left, right, v);
        return counts;
      };
      this.take(integrand, low, high, this.alongV.rule, this.alongV.judged, high - low <= this.slim);
    }
    for (const { column, at, from, to, rule } of this.pieces) {
      const integrand = (t: number) => {
        const [u, v, , dv] = at(t);
        if (dv !== 0) this.acrossTo(column, u, v);
        return dv;
      };
      const isSlim =
        staysAt(at, 1, at(from)[1], from, to, this.slim) ||
        staysAt(at, 0, this.us[column], from, to, this.near);
      this.take(integrand, from, to, rule, 0, isSlim);
    }
    return this.lines.sums();
  }

  /** A smooth piece of the boundary, cut where it crosses knots. */
  private piece(at: Place, from: number, to: number, rule: Quadrature): void {
    const crossed = [...crossings(at, 0, this.us, from, to), ...crossings(at, 1, this.vs, from, to)];
    for (const [start, end] of cutAt(crossed, from, to)) this.inColumn(at, start, end, rule);
  }

  private inColumn(at: Place, from: number, to: number, rule: Quadrature): void {
    const column = this.columnOf(at((from + to) / 2)[0]);
    const [[, low], [, high]] = [at(from), at(to)];
    for (let c = 0; c < column && low !== high; c++) {
      this.steps[c].set(low, (this.steps[c].get(low) ?? 0) + 1);
      this.steps[c].set(high, (this.steps[c].get(high) ?? 0) - 1);
    }
    this.pieces.push({ column, at, from, to, rule });
  }

  private take(
    integrand: (t: number) => number,
    from: number,
    to: number,
    rule: Quadrature,
    judged: number,
    isSlim: boolean,
  ): void {
    this.coarse = isSlim;
    if (isSlim) this.lines.exactly(integrand, from, to, SLIM_ALONG);
    else this.lines.halving(integrand, from, to, rule, judged);
  }

  /** The last whose left side is not right of a place; the one behind the last at the right end. */
  private columnOf(u: number): number {
    const { us } = this;
    let column = 0;
    while (column + 1 < us.length && us[column + 1] <= u + this.near) column++;
    return column;
  }

  /** ∫ f du from a column's left side, over the knots between. */
  private acrossTo(column: number, u: number, v: number): void {
    const { us } = this;
    const last = us.length - 2;
    let from = us[column];
    let c = column;
    for (; c < last && u > us[c + 1]; from = us[++c]) this.over(c, from, us[c + 1], v);
    while (c > 0 && u < us[c]) {
      c--;
      const to = c > 0 ? Math.max(u, us[c]) : u;
      this.over(c, from, to, v);
      from = to;
    }
    if (from !== u) this.over(Math.min(c, last), from, u, v);
  }

  /** What lies within the boundary of a column. */
  private cellsOf(
    column: number,
    steps: ReadonlyMap<number, number>,
  ): { column: number; low: number; high: number; counts: number }[] {
    const ends = [...steps.keys()].filter((v) => steps.get(v) !== 0).sort((a, b) => a - b);
    let counts = 0;
    return ends.slice(0, -1).flatMap((low, i) => {
      counts += steps.get(low)!;
      if (counts === 0) return [];
      const here = counts;
      return cutAt(this.vs, low, ends[i + 1]).map(([from, to]) => ({
        column,
        low: from,
        high: to,
        counts: here,
      }));
    });
  }

  /** ∫ f du within one column, added to the sums across. */
  private over(column: number, from: number, to: number, v: number, depth = 0): void {
    const slim = Math.abs(to - from) <= 2 * this.near;
    const { judged } = this.alongU;
    const rule = slim ? SLIM : this.alongU.rule;
    const { row, scratch, sampled } = this;
    const n = rule.nodes.length;
    const sums = scratch[depth].fill(0);
    const [half, middle] = [(to - from) / 2, (to + from) / 2];
    row.start(this.spans[column], v);
    for (let i = 0; i < n; i++) {
      row.at(middle + half * rule.nodes[i]);
      const w = half * rule.weights[i];
      this.place(sums, w, 2 * i, half);
    }
    const leftArea = slim ? 0 : leftBy(rule, sampled, 1, 2);
    const leftVolume = judged === 0 && !slim ? leftBy(rule, sampled, 0, 2) : 0;
    const most = this.densest * Math.abs(to - from);
    const fine = leftArea <= AREA_AGREES * most && leftVolume <= QUADRATURE_AGREES * this.lines.reach * most;
    if (!fine && !this.coarse && depth < HALVINGS) {
      this.over(column, from, middle, v, depth + 1);
      this.over(column, middle, to, v, depth + 1);
      return;
    }
    const { across, acrossLeft } = this.lines;
    for (let k = 0; k < SUMS; k++) across[k] += sums[k];
    acrossLeft[AREA] += leftArea;
    acrossLeft[0] += leftVolume;
  }

  /** Adds what lies at the row's place, and notes it. */
  private place(into: Float64Array, weight: number, note: number, half: number): void {
    const { sampled } = this;
    const { out } = this.row;
    const px = out[0];
    const py = out[1];
    const pz = out[2];
    const nx = out[4] * out[8] - out[5] * out[7];
    const ny = out[5] * out[6] - out[3] * out[8];
    const nz = out[3] * out[7] - out[4] * out[6];
    const flux = px * nx + py * ny + pz * nz;
    const area = Math.sqrt(nx * nx + ny * ny + nz * nz);
    this.lines.add(into, px, py, pz, weight * flux);
    into[AREA] += weight * area;
    into[VECTOR] += weight * nx;
    into[VECTOR + 1] += weight * ny;
    into[VECTOR + 2] += weight * nz;
    if (area > this.densest) this.densest = area;
    sampled[note] = half * flux;
    sampled[note + 1] = half * area;
  }
}

const turned =
  (at: Place): Place =>
  (t) => {
    const [u, v, du, dv] = at(t);
    return [v, u, dv, du];
  };

/**
 * Where a smooth piece crosses knots of one parameter, by its own: between places at which it lies on either
 * side. A crossing that is missed costs time, not exactness.
 */
function crossings(at: Place, which: 0 | 1, knots: readonly number[], from: number, to: number): number[] {
  if (knots.length < 3) return [];
  const found: number[] = [];
  let [t, x] = [from, at(from)[which]];
  for (let i = 1; i <= LOOKS; i++) {
    const next = from + (i * (to - from)) / LOOKS;
    const y = at(next)[which];
    for (const knot of knots)
      if ((x < knot && y > knot) || (x > knot && y < knot))
        found.push(root(at, which, knot, t, next, x < knot));
    [t, x] = [next, y];
  }
  return found;
}

function root(at: Place, which: 0 | 1, knot: number, from: number, to: number, rises: boolean): number {
  let [low, high] = [from, to];
  for (let i = 0; i < BISECTIONS; i++) {
    const middle = (low + high) / 2;
    if (middle === low || middle === high) break;
    if (at(middle)[which] < knot === rises) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
