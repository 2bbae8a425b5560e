import { QUADRATURE_AGREES, SUM_ROUNDING } from '../tolerances.ts';
import { cross, dot, type Vec3 } from '../math/vec3.ts';
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
  | { shape: 'free'; at: (t: number) => readonly [u: number, v: number, du: number, dv: number]; from: number; to: number };

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
const MIDDLE = gaussLegendre(16);
const WHOLE_TURN = gaussLegendre(28);
/** rad: up to which each of them does. */
const SHORT_ANGLE = 0.8;
const MIDDLE_ANGLE = Math.PI / 1.4;
/** Conics are taken in pieces of at most a quarter turn. */
const PIECE = Math.PI / 2;

/** Free curves are halved until two estimates agree, or this often. */
const HALVINGS = 14;

/**
 * Sums of a face about the origin of its coordinates. A bound of zero width (dv = 0) gives nothing and costs nothing.
 * @param about subtracted from all coordinates, so that nothing is lost far from the origin
 */
export function integrateFace(surface: ParametricSurface, boundary: readonly BoundaryCurve[], about: Vec3): FaceSums {
  const face = new FaceIntegral(surface, about, startOf(boundary));
  for (const curve of boundary) face.along(curve);
  return face.sums();
}

const startOf = ([first]: readonly BoundaryCurve[]): number =>
  first === undefined ? 0 : first.shape === 'line' ? first.from[0] : first.shape === 'conic' ? first.centre[0] : first.at(first.from)[0];

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

  constructor(surface: ParametricSurface, about: Vec3, u0: number) {
    this.flat = surface.kind === 'plane';
    this.turnsAlong = surface.kind === 'sphere' || surface.kind === 'torus';
    this.u0 = u0;
    this.integrand = integrandOf(surface, about, this.inner);
  }

  along(curve: BoundaryCurve): void {
    if (curve.shape === 'line') {
      const [[u, v], [u1, v1]] = [curve.from, curve.to];
      const [du, dv] = [u1 - u, v1 - v];
      if (dv === 0) return;
      const turns = Math.max(this.flat ? 0 : Math.abs(du), this.turnsAlong ? Math.abs(dv) : 0);
      const straight = this.flat || (!this.turnsAlong && du === 0);
      const rule = straight ? STRAIGHT : ruleFor(turns);
      this.piece(0, 1, rule, (t) => [u + t * du, v + t * dv, du, dv], this.total);
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
    } else this.free(curve.at, curve.from, curve.to);
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

  /** A curve of any kind: halved where two estimates disagree. */
  private free(at: (t: number) => readonly number[], from: number, to: number): void {
    const whole = new Float64Array(SIZE);
    this.piece(from, to, SHORT, at, whole);
    this.halves(at, from, to, whole, 0);
  }

  private halves(at: (t: number) => readonly number[], from: number, to: number, whole: Float64Array, depth: number): void {
    const middle = (from + to) / 2;
    const [a, b] = [new Float64Array(SIZE), new Float64Array(SIZE)];
    this.piece(from, middle, SHORT, at, a);
    this.piece(middle, to, SHORT, at, b);
    let agree = true;
    for (let k = 0; k < SIZE; k++) agree &&= Math.abs(a[k] + b[k] - whole[k]) <= QUADRATURE_AGREES * this.size[k];
    if (!agree && depth < HALVINGS) {
      this.halves(at, from, middle, a, depth + 1);
      this.halves(at, middle, to, b, depth + 1);
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

  /** ∫ f du from the start to u, into `inner`. */
  private acrossTo(u: number, v: number): void {
    this.inner.fill(0);
    const [half, middle] = [(u - this.u0) / 2, (u + this.u0) / 2];
    if (half === 0) return;
    const rule = this.flat ? STRAIGHT : ruleFor(2 * Math.abs(half));
    for (let i = 0; i < rule.nodes.length; i++) this.integrand(middle + half * rule.nodes[i], v, half * rule.weights[i]);
  }
}

const ruleFor = (angle: number): Quadrature => (angle <= SHORT_ANGLE ? SHORT : angle <= MIDDLE_ANGLE ? MIDDLE : WHOLE_TURN);

/** Adds weight · (x·N){1, x, x·xᵀ} and weight · |N| at a place. */
function integrandOf({ kind, origin, x, y, axis, first, second }: ParametricSurface, about: Vec3, into: Float64Array) {
  const [ox, oy, oz] = [origin[0] - about[0], origin[1] - about[1], origin[2] - about[2]];
  // A left-handed frame turns the normal round.
  const hand = Math.sign(dot(cross(x, y), axis)) || 1;
  const [ca, sa] = [Math.cos(second), Math.sin(second)];
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
    into[AREA] += weight * area;
  };
}
