import { cross, dot, type Vec3 } from '../math/vec3.ts';
import { piecesOf, placeOn, rangeOf, type BoundaryCurve } from './boundary-curve.ts';
import { gaussLegendre, type Quadrature } from './gauss-legendre.ts';
import { AREA, LineSums, VECTOR, type FaceSums } from './line-sums.ts';
import { integratePatch } from './patch-integrals.ts';
import { patchOfSampled, patchOfSpline, type SampledSurface } from './patch.ts';
import type { SplineSurface } from './splines.ts';

/*
 * What a face gives to the figures of its solid, from its boundary alone. By the divergence theorem a solid's
 * moments are sums over its faces of ∫ x·n {1, x, x·xᵀ} dA (each divided by 3, 4, 5); over a face by its
 * parameters, and by Green's theorem ∬ f du dv = ∮ (∫ f du) dv, once round its boundary. Both integrals are
 * one-dimensional and taken by Gauss–Legendre quadrature:
 * exact to rounding where the integrand is a polynomial (planes bounded by lines), and with so many nodes
 * elsewhere that what is left of a trigonometric one is below rounding.
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

/** A B-spline surface or any other; elementary ones are integrated as what they are. */
export type FreeSurface =
  { kind: 'spline'; spline: SplineSurface } | { kind: 'sampled'; sampled: SampledSurface };

/** Of no kind that is known in closed form. */
export const isFree = (surface: ParametricSurface | FreeSurface): surface is FreeSurface =>
  surface.kind === 'spline' || surface.kind === 'sampled';

/*
 * How many nodes: a trigonometric polynomial of degree 4 over an angle r is e^(ict) with c = 2r on [−1, 1]; n
 * nodes leave about (e·c/4n)^2n of it (Davis & Rabinowitz, Methods of Numerical Integration, 2.7).
 */
const STRAIGHT = gaussLegendre(4);
const SHORT = gaussLegendre(10);
/** For the pieces of curves that have many. */
const FEW = gaussLegendre(7);
const MANY = 8;
const MIDDLE = gaussLegendre(16);
const WHOLE_TURN = gaussLegendre(28);
/** rad: up to which each of them does. */
const SLIM_ANGLE = 0.05;
const SHORT_ANGLE = 0.8;
const MIDDLE_ANGLE = Math.PI / 1.4;

/**
 * Sums of a face about the origin of its coordinates. A bound of zero width (dv = 0) gives
 * nothing and costs nothing.
 * @param about subtracted from all coordinates, so that nothing is lost far from the origin
 */
export function integrateFace(
  surface: ParametricSurface | FreeSurface,
  boundary: readonly BoundaryCurve[],
  about: Vec3,
): FaceSums {
  if (surface.kind === 'spline') return integratePatch(patchOfSpline(surface.spline, about), boundary);
  if (surface.kind === 'sampled') return integratePatch(patchOfSampled(surface.sampled, about), boundary);
  const face = new FaceIntegral(surface, about, startOf(boundary));
  for (const curve of boundary) face.along(curve);
  return face.sums();
}

/**
 * The u from which lines across are counted: that of the boundary's beginning, or its
 * middle where it is round.
 */
function startOf([first]: readonly BoundaryCurve[]): number {
  if (!first) return 0;
  return first.shape === 'conic' ? first.centre[0] : placeOn(first)(rangeOf(first)[0])[0];
}

class FaceIntegral {
  private readonly lines = new LineSums();
  private readonly integrand: (u: number, v: number, weight: number) => void;
  private readonly flat: boolean;
  private readonly u0: number;
  /** Whether along v, too, the integrand turns instead of being a polynomial. */
  private readonly turnsAlong: boolean;
  private readonly pieces: { size: number; take: () => void }[] = [];

  constructor(surface: ParametricSurface, about: Vec3, u0: number) {
    this.flat = surface.kind === 'plane';
    this.turnsAlong = surface.kind === 'sphere' || surface.kind === 'torus';
    this.u0 = u0;
    this.integrand = integrandOf(surface, about, this.lines);
  }

  along(curve: BoundaryCurve): void {
    const at = placeOn(curve);
    const integrand = (t: number) => {
      const [u, v, , dv] = at(t);
      return this.acrossTo(u, v, dv);
    };
    if (curve.shape === 'line') {
      const [du, dv] = [curve.to[0] - curve.from[0], curve.to[1] - curve.from[1]];
      if (dv === 0) return;
      const turns = Math.max(this.flat ? 0 : Math.abs(du), this.turnsAlong ? Math.abs(dv) : 0);
      const straight = this.flat || (!this.turnsAlong && du === 0);
      return this.lines.exactly(integrand, 0, 1, straight ? STRAIGHT : ruleFor(turns));
    }
    const pieces = piecesOf(curve);
    const rule = curve.shape === 'conic' ? MIDDLE : pieces.length > MANY ? FEW : SHORT;
    for (const [start, end] of pieces) {
      if (curve.shape === 'conic' && this.flat) this.lines.exactly(integrand, start, end, rule);
      else {
        const size = Math.abs((at(end)[1] - at(start)[1]) * (at((start + end) / 2)[0] - this.u0));
        this.pieces.push({ size, take: () => this.lines.halving(integrand, start, end, rule) });
      }
    }
  }

  /**
   * Free pieces come last and the large ones first: the noise of those that run along a
   * parameter is judged beside them.
   */
  sums(): FaceSums {
    this.pieces.sort((a, b) => b.size - a.size).forEach(({ take }) => take());
    return this.lines.sums();
  }

  /** ∫ f du from the start to u, into the sums across; gives back what it counts. */
  private acrossTo(u: number, v: number, dv: number): number {
    const [half, middle] = [(u - this.u0) / 2, (u + this.u0) / 2];
    if (half === 0 || dv === 0) return dv;
    const rule = this.flat ? STRAIGHT : ruleFor(2 * Math.abs(half));
    for (let i = 0; i < rule.nodes.length; i++)
      this.integrand(middle + half * rule.nodes[i], v, half * rule.weights[i]);
    return dv;
  }
}

const ruleFor = (angle: number): Quadrature =>
  angle <= SLIM_ANGLE ? STRAIGHT : angle <= SHORT_ANGLE ? SHORT : angle <= MIDDLE_ANGLE ? MIDDLE : WHOLE_TURN;

/** Adds weight · (x·N){1, x, x·xᵀ} and weight · |N| at a place. */
function integrandOf(
  { kind, origin, x, y, axis, first, second }: ParametricSurface,
  about: Vec3,
  lines: LineSums,
) {
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
    lines.add(lines.across, px, py, pz, w);
    lines.across[AREA] += weight * area;
    for (let k = 0; k < 3; k++) lines.across[VECTOR + k] += weight * (nx * x[k] + ny * y[k] + nz * axis[k]);
  };
}
