import type { FreeSurface, ParametricSurface } from './face-integrals.ts';
import { surfaceEvaluator } from './splines.ts';
import { cross, dot, length, type Vec3 } from '../math/vec3.ts';
import { TINY } from '../tolerances.ts';

/** Writes a place of a surface and both derivatives: x, y, z, then along u, then along v. mm */
export type PlaceOnSurface = (u: number, v: number, out: Float64Array) => void;

/** Where a surface is, by its parameters as ISO 10303-42 has them. */
export function placeOnSurface(surface: ParametricSurface | FreeSurface): PlaceOnSurface {
  if (surface.kind === 'spline') return surfaceEvaluator(surface.spline);
  if (surface.kind === 'sampled') return surface.sampled.at;
  const { kind, origin, x, y, axis, first, second } = surface;
  /** Of a place r (cos u, sin u) and h along the axis, and how r and h change along v. */
  const turned = (out: Float64Array, u: number, r: number, h: number, dr: number, dh: number) => {
    const [c, s] = [Math.cos(u), Math.sin(u)];
    for (let k = 0; k < 3; k++) {
      const [outward, round] = [c * x[k] + s * y[k], c * y[k] - s * x[k]];
      out[k] = origin[k] + r * outward + h * axis[k];
      out[3 + k] = r * round;
      out[6 + k] = dr * outward + dh * axis[k];
    }
  };
  switch (kind) {
    case 'plane':
      return (u, v, out) => {
        for (let k = 0; k < 3; k++)
          [out[k], out[3 + k], out[6 + k]] = [origin[k] + u * x[k] + v * y[k], x[k], y[k]];
      };
    case 'cylinder':
      return (u, v, out) => turned(out, u, first, v, 0, 1);
    case 'cone': {
      const [c, s] = [Math.cos(second), Math.sin(second)];
      return (u, v, out) => turned(out, u, first + v * s, v * c, s, c);
    }
    case 'sphere':
      return (u, v, out) =>
        turned(out, u, first * Math.cos(v), first * Math.sin(v), -first * Math.sin(v), first * Math.cos(v));
    case 'torus':
      return (u, v, out) =>
        turned(
          out,
          u,
          first + second * Math.cos(v),
          second * Math.sin(v),
          -second * Math.sin(v),
          second * Math.cos(v),
        );
  }
}

/**
 * The way in parameters along which a surface rises the most, and how much it rises along it; the shortest in
 * space for that rise.
 * @param su, sv derivatives there @returns null at a pole, where parameters are no ways
 */
export function steepestWay(up: Vec3, su: Vec3, sv: Vec3): { du: number; dv: number; rise: number } | null {
  const [gu, gv] = [dot(su, up), dot(sv, up)];
  const [uu, uv, vv] = [dot(su, su), dot(su, sv), dot(sv, sv)];
  const det = uu * vv - uv * uv;
  if (!(det > TINY * TINY * uu * vv)) return null;
  const [du, dv] = [(vv * gu - uv * gv) / det, (uu * gv - uv * gu) / det];
  return { du, dv, rise: gu * du + gv * dv };
}

/** Sine of the angle between a plane and a surface with these derivatives; 0 at a pole. */
export function sineTo(normal: Vec3, su: Vec3, sv: Vec3): number {
  const across = cross(su, sv);
  const size = length(across);
  return size > 0 ? length(cross(normal, across)) / size : 0;
}
