import { QUADRATURE_AGREES, SUM_ROUNDING } from '../tolerances.ts';
import { cross, dot, type Vec3 } from '../math/vec3.ts';
import { breaksOf, isPolynomialAlongU, surfaceEvaluator, type SplineSurface } from './splines.ts';
import { gaussLegendre, type Quadrature } from './gauss-legendre.ts';

/*
 * What a face gives to the figures of its solid, from its boundary alone. By the divergence theorem a solid's moments are sums over
 * its faces of ∫ x·n {1, x, x·xᵀ} dA (each divided by 3, 4, 5); over a face by its parameters, and by Green's theorem
 * ∬ f du dv = ∮ (∫ f du) dv, once round its boundary. Both integrals are one-dimensional and taken by Gauss–Legendre quadrature:
 * exact to rounding where the integrand is a polynomial (planes bounded by lines), and with so many nodes elsewhere that what is
 * left of a trigonometric one is below rounding.
 */

/** An elementary surface with its parameters, as ISO 10303-42 has them. Unit directions, mm, rad. */
export interface ParametricSurface {
  kind: 'plane' | 'cylinder' | 'cone' | 'sphere' | 'torus';
  origin: Vec3;
  /** u starts at x and turns towards y; of a plane both are lengths. */
  x: Vec3;
  y: Vec3;
  axis: Vec3;
  /** Radius; at `origin` of a cone; major of a torus. */
  first: number;
  /** Half the opening angle of a cone, minor radius of a torus. */
  second: number;
}

/** A B-spline surface; elementary ones are integrated as what they are. */
export interface FreeSurface {
  kind: 'spline';
  spline: SplineSurface;
}

/** A piece of a face's boundary in its parameters, as it runs round the face: with what is inside on its left. */
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

/** What a face gives: its area, and ∫ x·N {1, x, y, z, xx, xy, xz, yy, yz, zz}/{3, 4, 5}, where N is the normal as the parameters turn. */
export interface FaceSums {
  area: number;
  moments: Float64Array;
  /** Bounds of what quadrature leaves of the area, mm², and of the first moment, mm³, relative to all that was added up. */
  areaWithin: number;
  volumeWithin: number;
}

/** Volume, 3 first moments, 6 second moments. */
export const MOMENTS = 10;
const AREA = MOMENTS;
const SIZE = MOMENTS + 1;
const SHARES = [3, 4, 4, 4, 5, 5, 5, 5, 5, 5];

/*
 * How many nodes: a trigonometric polynomial of degree 4 over an angle r is e^(ict) with c = 2r on [−1, 1]; n nodes leave about
 * (e·c/4n)^2n of it (Davis & Rabinowitz, Methods of Numerical Integration, 2.7).
 */
const STRAIGHT = gaussLegendre(4);
const SHORT = gaussLegendre(10);
/** For the pieces of curves that have many. */
const FEW = gaussLegendre(6);
const MANY = 8;
const MIDDLE = gaussLegendre(16);
const WHOLE_TURN = gaussLegendre(28);
/** rad: up to which each of them does. */
const SHORT_ANGLE = 0.8;
const MIDDLE_ANGLE = Math.PI / 1.4;
/** Conics are taken in pieces of at most a quarter turn. */
const PIECE = Math.PI / 2;

/** Free curves are halved until two estimates agree, or this often. */
const HALVINGS = 8;
/** Of ten nodes a halving gains far more than this where the integrand is smooth. */
const GAINS = 1 / 2;

/**
 * Sums of a face about the origin of its coordinates. A bound of zero width (dv = 0) gives nothing and costs nothing.
 * @param about subtracted from all coordinates, so that nothing is lost far from the origin
 */
export function integrateFace(surface: ParametricSurface | FreeSurface, boundary: readonly BoundaryCurve[], about: Vec3): FaceSums {
  const face = new FaceIntegral(surface, about, startOf(boundary));
  for (const curve of boundary) face.along(curve);
  return face.sums();
}

const startOf = ([first]: readonly BoundaryCurve[]): number =>
  first === undefined ? 0 : first.shape === 'line' ? first.from[0] : first.shape === 'conic' ? first.centre[0] : first.at(first.from)[0];

/** How often a spline is evaluated when it is integrated along a boundary, about: what decides whether the kernel is faster. */
export function splineCost({ u, v, weights }: SplineSurface, boundary: readonly BoundaryCurve[]): number {
  const across = (breaksOf(u).length - 1) * acrossRule({ u, v, weights, poles: new Float64Array(0) }).nodes.length;
  const pieces = boundary.reduce((sum, curve) => {
    if (curve.shape === 'line') return curve.from[1] === curve.to[1] ? sum : sum + breaksOf(v).length - 1;
    return sum + (curve.shape === 'free' && curve.breaks ? curve.breaks.length - 1 : 4);
  }, 0);
  return pieces * 3 * SHORT.nodes.length * across;
}

class FaceIntegral {
  private readonly total = new Float64Array(SIZE);
  private readonly size = new Float64Array(SIZE);
  private readonly left = new Float64Array(SIZE);
  private readonly inner = new Float64Array(SIZE);
  private readonly integrand: (u: number, v: number, weight: number) => void;
  private readonly flat: boolean;
  private readonly u0: number;
  /** Whether along v, too, the integrand turns instead of being a polynomial. */
  private readonly turnsAlong: boolean;
  /** Where the pieces of a spline meet, along each parameter; null for other surfaces. */
  private readonly breaks: { u: readonly number[]; v: readonly number[]; rule: Quadrature } | null;

  constructor(surface: ParametricSurface | FreeSurface, about: Vec3, u0: number) {
    this.flat = surface.kind === 'plane';
    this.turnsAlong = surface.kind === 'sphere' || surface.kind === 'torus';
    this.u0 = u0;
    this.breaks =
      surface.kind === 'spline' ? { u: breaksOf(surface.spline.u), v: breaksOf(surface.spline.v), rule: acrossRule(surface.spline) } : null;
    this.integrand =
      surface.kind === 'spline' ? splineIntegrand(surface.spline, about, this.inner) : integrandOf(surface, about, this.inner);
  }

  along(curve: BoundaryCurve): void {
    if (curve.shape === 'line') {
      const [[u, v], [u1, v1]] = [curve.from, curve.to];
      const [du, dv] = [u1 - u, v1 - v];
      if (dv === 0) return;
      const at = (t: number) => [u + t * du, v + t * dv, du, dv] as const;
      if (this.breaks) return this.inPieces(at, 0, 1, [...crossings(this.breaks.u, u, du), ...crossings(this.breaks.v, v, dv)]);
      const turns = Math.max(this.flat ? 0 : Math.abs(du), this.turnsAlong ? Math.abs(dv) : 0);
      const straight = this.flat || (!this.turnsAlong && du === 0);
      const rule = straight ? STRAIGHT : ruleFor(turns);
      this.piece(0, 1, rule, at, this.total);
    } else if (curve.shape === 'conic') {
      const { centre, a, b, from, to } = curve;
      const at = (t: number) => {
        const [c, s] = [Math.cos(t), Math.sin(t)];
        return [centre[0] + c * a[0] + s * b[0], centre[1] + c * a[1] + s * b[1], c * b[0] - s * a[0], c * b[1] - s * a[1]] as const;
      };
      if (!this.flat) return this.free(at, from, to);
      const pieces = Math.max(1, Math.ceil(Math.abs(to - from) / PIECE));
      const step = (to - from) / pieces;
      for (let i = 0; i < pieces; i++) this.piece(from + i * step, from + (i + 1) * step, MIDDLE, at, this.total);
    } else this.inPieces(curve.at, curve.from, curve.to, curve.breaks ?? []);
  }

  sums(): FaceSums {
    const bound = (k: number) => this.left[k] + SUM_ROUNDING * this.size[k];
    return {
      area: this.total[AREA],
      moments: this.total.slice(0, MOMENTS).map((x, k) => x / SHARES[k]),
      areaWithin: bound(AREA),
      volumeWithin: bound(0) / 3,
    };
  }

  /** A curve whose pieces meet at some parameters. */
  private inPieces(at: (t: number) => readonly number[], from: number, to: number, breaks: readonly number[]): void {
    const [low, high] = [Math.min(from, to), Math.max(from, to)];
    const inner = [...new Set(breaks)].filter((t) => t > low && t < high).sort((a, b) => (from < to ? a - b : b - a));
    const rule = inner.length >= MANY ? FEW : SHORT;
    [...inner, to].reduce((start, end) => {
      this.free(at, start, end, rule);
      return end;
    }, from);
  }

  /** A curve of any kind: halved where two estimates disagree. */
  private free(at: (t: number) => readonly number[], from: number, to: number, rule = SHORT): void {
    const whole = new Float64Array(SIZE);
    this.piece(from, to, rule, at, whole);
    this.halves(at, from, to, whole, 0, Infinity, rule);
  }

  /** @param before by how much the estimates before it disagreed: halving that gains nothing any more is at the rounding of what it adds */
  private halves(
    at: (t: number) => readonly number[],
    from: number,
    to: number,
    whole: Float64Array,
    depth: number,
    before: number,
    rule: Quadrature,
  ): void {
    const middle = (from + to) / 2;
    const [a, b] = [new Float64Array(SIZE), new Float64Array(SIZE)];
    this.piece(from, middle, rule, at, a);
    this.piece(middle, to, rule, at, b);
    let off = 0;
    for (let k = 0; k < SIZE; k++) if (this.size[k] > 0) off = Math.max(off, Math.abs(a[k] + b[k] - whole[k]) / this.size[k]);
    if (off > QUADRATURE_AGREES && depth < HALVINGS && off < before * GAINS) {
      this.halves(at, from, middle, a, depth + 1, off, rule);
      this.halves(at, middle, to, b, depth + 1, off, rule);
      return;
    }
    for (let k = 0; k < SIZE; k++) {
      this.total[k] += a[k] + b[k];
      this.left[k] += Math.abs(a[k] + b[k] - whole[k]);
    }
  }

  private piece(from: number, to: number, rule: Quadrature, at: (t: number) => readonly number[], into: Float64Array): void {
    const [half, middle] = [(to - from) / 2, (to + from) / 2];
    for (let i = 0; i < rule.nodes.length; i++) {
      const [u, v, , dv] = at(middle + half * rule.nodes[i]);
      const weight = half * rule.weights[i] * dv;
      if (weight === 0) continue;
      this.acrossTo(u, v);
      for (let k = 0; k < SIZE; k++) {
        const x = weight * this.inner[k];
        into[k] += x;
        this.size[k] += Math.abs(x);
      }
    }
  }

  private acrossPieces(u: number, v: number, knots: readonly number[], rule: Quadrature): void {
    const [low, high] = [Math.min(u, this.u0), Math.max(u, this.u0)];
    const ends = [low, ...knots.filter((k) => k > low && k < high), high];
    const sign = u < this.u0 ? -1 : 1;
    for (let n = 1; n < ends.length; n++) {
      const [half, middle] = [(ends[n] - ends[n - 1]) / 2, (ends[n] + ends[n - 1]) / 2];
      for (let i = 0; i < rule.nodes.length; i++) this.integrand(middle + half * rule.nodes[i], v, sign * half * rule.weights[i]);
    }
  }

  /** ∫ f du from the start to u, into `inner`. */
  private acrossTo(u: number, v: number): void {
    this.inner.fill(0);
    if (this.breaks) return this.acrossPieces(u, v, this.breaks.u, this.breaks.rule);
    const [half, middle] = [(u - this.u0) / 2, (u + this.u0) / 2];
    if (half === 0) return;
    const rule = this.flat ? STRAIGHT : ruleFor(2 * Math.abs(half));
    for (let i = 0; i < rule.nodes.length; i++) this.integrand(middle + half * rule.nodes[i], v, half * rule.weights[i]);
  }
}

/** Of degree p, ∫ x·N x·xᵀ is of degree 5p − 1 along a parameter where the surface is polynomial; half as many nodes are exact. Its area is not polynomial. */
function acrossRule(spline: SplineSurface): Quadrature {
  if (!isPolynomialAlongU(spline)) return WHOLE_TURN;
  return spline.u.degree === 1 ? STRAIGHT : MIDDLE;
}

/** Where a straight line in the parameters crosses the knots of one of them, by its own parameter. */
const crossings = (knots: readonly number[], start: number, slope: number): number[] =>
  slope === 0 ? [] : knots.map((k) => (k - start) / slope);

const ruleFor = (angle: number): Quadrature => (angle <= SHORT_ANGLE ? SHORT : angle <= MIDDLE_ANGLE ? MIDDLE : WHOLE_TURN);

/** The same on a spline. */
function splineIntegrand(spline: SplineSurface, about: Vec3, into: Float64Array) {
  const evaluate = surfaceEvaluator(spline);
  const at = new Float64Array(9);
  return (u: number, v: number, weight: number): void => {
    evaluate(u, v, at);
    const [px, py, pz] = [at[0] - about[0], at[1] - about[1], at[2] - about[2]];
    const nx = at[4] * at[8] - at[5] * at[7];
    const ny = at[5] * at[6] - at[3] * at[8];
    const nz = at[3] * at[7] - at[4] * at[6];
    addMoments(into, px, py, pz, weight * (px * nx + py * ny + pz * nz));
    into[AREA] += weight * Math.sqrt(nx * nx + ny * ny + nz * nz);
  };
}

function addMoments(into: Float64Array, px: number, py: number, pz: number, w: number): void {
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

/** Adds weight · (x·N){1, x, x·xᵀ} and weight · |N| at a place. */
function integrandOf({ kind, origin, x, y, axis, first, second }: ParametricSurface, about: Vec3, into: Float64Array) {
  const [ox, oy, oz] = [origin[0] - about[0], origin[1] - about[1], origin[2] - about[2]];
  // A left-handed frame turns the normal round.
  const hand = Math.sign(dot(cross(x, y), axis)) || 1;
  const [ca, sa] = kind === 'cone' ? [Math.cos(second), Math.sin(second)] : [1, 0];
  return (u: number, v: number, weight: number): void => {
    let [along, across, up] = [u, v, 0];
    // Components of N along x, y and the axis.
    let [nx, ny, nz] = [0, 0, hand];
    let area = 1;
    if (kind !== 'plane') {
      const [c, s] = [Math.cos(u), Math.sin(u)];
      let [r, nr] = [first, first];
      if (kind === 'cylinder') [up, nz] = [v, 0];
      else if (kind === 'cone') {
        r = first + v * sa;
        up = v * ca;
        nr = r * ca;
        nz = -r * sa;
        area = Math.abs(r);
      } else {
        const [cv, sv] = [Math.cos(v), Math.sin(v)];
        const tube = kind === 'sphere' ? first : second;
        r = kind === 'sphere' ? first * cv : first + second * cv;
        up = tube * sv;
        nr = r * tube * cv;
        nz = r * tube * sv;
        area = Math.abs(r * tube);
      }
      if (kind === 'cylinder') area = first;
      [along, across] = [r * c, r * s];
      [nx, ny, nz] = [hand * nr * c, hand * nr * s, hand * nz];
    }
    const px = ox + along * x[0] + across * y[0] + up * axis[0];
    const py = oy + along * x[1] + across * y[1] + up * axis[1];
    const pz = oz + along * x[2] + across * y[2] + up * axis[2];
    const w =
      weight *
      (px * (nx * x[0] + ny * y[0] + nz * axis[0]) +
        py * (nx * x[1] + ny * y[1] + nz * axis[1]) +
        pz * (nx * x[2] + ny * y[2] + nz * axis[2]));
    addMoments(into, px, py, pz, w);
    into[AREA] += weight * area;
  };
}
