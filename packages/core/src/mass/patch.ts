import type { Vec3 } from '../math/vec3.ts';
import { gaussLegendre, type Quadrature } from './gauss-legendre.ts';
import { AREA } from './line-sums.ts';
import {
  breaksOf,
  exchanged,
  isPolynomialAlongU,
  spanAt,
  SplineRow,
  type SplineBasis,
  type SplineSurface,
} from './splines.ts';

/*
 * What is integrated over: a surface in pieces that are smooth between breaks, and how it is
 * evaluated along lines of one v.
 */

/**
 * A surface that is asked for its places: of extrusion, of revolution, an offset, or any other that is smooth
 * between its breaks. mm
 */
export interface SampledSurface {
  /** Writes a place and both derivatives at a parameter: x, y, z, then along u, then along v. */
  at: (u: number, v: number, out: Float64Array) => void;
  /** Where its pieces meet along each parameter, over all that a face covers. */
  us: readonly number[];
  vs: readonly number[];
  /** Where it is a polynomial along a parameter, of which degree. */
  degreeU?: number;
  degreeV?: number;
  /** Called when it is not asked any more. */
  release?: () => void;
}

/** Evaluates a surface along lines of one v. */
interface Row {
  /** Place, then along u, then along v. */
  readonly out: Float64Array;
  /** @param span of the piece, as `spanOf` gives it */
  start(span: number, v: number): void;
  at(u: number): void;
}

interface Along {
  breaks: readonly number[];
  rule: Quadrature;
  /** The first of the sums that the rule is not known to take exactly. */
  judged: number;
}

export interface Patch {
  u: Along;
  v: Along;
  row: Row;
  /** What a row wants to know of the piece that begins at u. */
  spanOf: (u: number) => number;
  /** The parameters are exchanged. */
  turned: boolean;
}

/**
 * Along a parameter in which a surface is polynomial of degree p, ∫ x·N x·xᵀ is of degree 5p − 1: half as
 * many nodes are exact.
 */
const POLYNOMIAL = [4, 5, 6, 8, 10, 13].map(gaussLegendre);
/** Beside curves, and where weights are not even. */
const SMOOTH = gaussLegendre(12);
export const HIGH = gaussLegendre(16);

/**
 * @param about subtracted from all places before anything is added up: far from the
 * origin the sums would round
 */
export function patchOfSpline(surface: SplineSurface, about: Vec3): Patch {
  const near = { ...surface, poles: surface.poles.map((x, i) => x - about[i % 3]) };
  const one = alongSpline(surface.u, isPolynomialAlongU(surface));
  const other = alongSpline(surface.v, isPolynomialAlongU(exchanged(surface)));
  const turned = isCheaper(other, one);
  const spline = turned ? exchanged(near) : near;
  const [u, v] = turned ? [other, one] : [one, other];
  return { u, v, row: new SplineRow(spline), spanOf: (at) => spanAt(spline.u, at), turned };
}

/** @param about as for splines */
export function patchOfSampled({ at, us, vs, degreeU, degreeV }: SampledSurface, about: Vec3): Patch {
  const [one, other] = [along(us, degreeU), along(vs, degreeV)];
  const turned = isCheaper(other, one);
  const [u, v] = turned ? [other, one] : [one, other];
  return { u, v, row: sampledRow(at, about, turned), spanOf: () => 0, turned };
}

/** Lines across are best laid along the parameter that needs fewer places. */
const isCheaper = (a: Along, b: Along): boolean => a.rule.nodes.length < b.rule.nodes.length;

const alongSpline = (basis: SplineBasis, polynomial: boolean): Along =>
  along(breaksOf(basis), polynomial ? basis.degree : undefined, basis.degree);

function along(breaks: readonly number[], polynomial: number | undefined, degree = polynomial ?? 0): Along {
  const known = polynomial !== undefined && polynomial < POLYNOMIAL.length;
  const rule = known ? POLYNOMIAL[polynomial] : degree < POLYNOMIAL.length ? SMOOTH : HIGH;
  return { breaks, rule, judged: polynomial === undefined ? 0 : AREA };
}

function sampledRow(at: SampledSurface['at'], about: Vec3, turned: boolean): Row {
  const [out, found] = [new Float64Array(9), new Float64Array(9)];
  let along = 0;
  return {
    out,
    start: (_, v) => (along = v),
    at(u) {
      if (turned) at(along, u, found);
      else at(u, along, found);
      const [first, second] = turned ? [6, 3] : [3, 6];
      for (let k = 0; k < 3; k++) {
        out[k] = found[k] - about[k];
        out[3 + k] = found[first + k];
        out[6 + k] = found[second + k];
      }
    },
  };
}
