import { CONE_LEAST, TINY } from '../tolerances.ts';
import type { FreeSurface, ParametricSurface } from '../mass/face-integrals.ts';
import { placeOnSurface } from '../mass/surface-place.ts';
import { addScaled, cross, dot, frameOf, length, normalize, scale, subtract } from '../math/vec3.ts';
import { roundSurface, type MeshedSurface } from './round-surface.ts';

/**
 * How far points are from any surface of a face. Of cylinders, cones, spheres and tori that is known in
 * closed form; others are asked at the parameters where a point is meant to be, which
 * are bettered a few times.
 * @returns null of a plane, from which no triangle strays
 */
export function meshedSurface(surface: ParametricSurface | FreeSurface): MeshedSurface | null {
  switch (surface.kind) {
    case 'plane':
      return null;
    case 'cylinder':
      return slopeSurface(surface, 0);
    case 'cone':
      return Math.abs(Math.cos(surface.second)) > CONE_LEAST ? slopeSurface(surface, surface.second) : null;
    case 'sphere':
    case 'torus': {
      const { kind, origin, axis, first, second } = surface;
      const round = roundSurface({ surface: kind, origin, axis, radius: first, minorRadius: second });
      return round ?? parametric(surface);
    }
    default:
      return parametric(surface);
  }
}

/**
 * A cylinder or cone: r = first + h · tan(angle), seen in the half plane of its axis,
 * on both sides of an apex.
 */
function slopeSurface({ origin, axis, first }: ParametricSurface, angle: number): MeshedSurface {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const t = s / c;
  /** The signed distance in the half plane, beyond an apex of the side that goes on there. */
  const off = (r: number, h: number) =>
    first + h * t >= 0 ? (r - first - h * t) * c : (r + first + h * t) * c;
  return {
    distance(x, y, z) {
      const [dx, dy, dz] = [x - origin[0], y - origin[1], z - origin[2]];
      const h = dx * axis[0] + dy * axis[1] + dz * axis[2];
      return Math.abs(off(Math.sqrt(Math.max(0, dx * dx + dy * dy + dz * dz - h * h)), h));
    },
    nearest(p) {
      const from = subtract(p, origin);
      const h = dot(from, axis);
      const flat = addScaled(from, axis, -h);
      const outward = length(flat) > 0 ? normalize(flat) : frameOf(axis).u;
      const sign = first + h * t >= 0 ? 1 : -1;
      const normal = addScaled(scale(outward, c), axis, -sign * s);
      return { point: addScaled(p, normal, -off(length(flat), h)), normal, u: 0, v: 0 };
    },
  };
}

/** Steps towards the foot of a point: the first already leaves the square of what the parameters were off. */
const STEPS = 3;
/** Share of the distance to a surface that a foot may lie aside: then Pythagoras tells what is left. */
const ASIDE = 0.5;

function parametric(surface: ParametricSurface | FreeSurface): MeshedSurface {
  const at = placeOnSurface(surface);
  const out = new Float64Array(9);
  /** Where the search for the foot ended. */
  const foot = { u: 0, v: 0 };
  const search = (x: number, y: number, z: number, u = 0, v = 0): number => {
    let best = Infinity;
    for (let step = 0; step <= STEPS; step++) {
      at(u, v, out);
      const [dx, dy, dz] = [x - out[0], y - out[1], z - out[2]];
      const off = Math.sqrt(dx * dx + dy * dy + dz * dz);
      if (!(off < best)) break;
      best = off;
      [foot.u, foot.v] = [u, v];
      const a = dx * out[3] + dy * out[4] + dz * out[5];
      const b = dx * out[6] + dy * out[7] + dz * out[8];
      const uu = out[3] * out[3] + out[4] * out[4] + out[5] * out[5];
      const uv = out[3] * out[6] + out[4] * out[7] + out[5] * out[8];
      const vv = out[6] * out[6] + out[7] * out[7] + out[8] * out[8];
      const det = uu * vv - uv * uv;
      if (!(det > TINY * uu * vv)) break;
      const [du, dv] = [(a * vv - b * uv) / det, (b * uu - a * uv) / det];
      const aside = Math.abs(du) * Math.sqrt(uu) + Math.abs(dv) * Math.sqrt(vv);
      if (aside <= ASIDE * off) {
        [foot.u, foot.v] = [u + du, v + dv];
        return Math.sqrt(off * off - (du * du * uu + 2 * du * dv * uv + dv * dv * vv));
      }
      [u, v] = [u + du, v + dv];
    }
    return best;
  };
  return {
    free: true,
    distance: search,
    nearest(p, u, v) {
      search(...p, u, v);
      at(foot.u, foot.v, out);
      const normal = cross([out[3], out[4], out[5]], [out[6], out[7], out[8]]);
      return {
        point: [out[0], out[1], out[2]],
        normal: length(normal) > 0 ? normalize(normal) : [0, 0, 1],
        u: foot.u,
        v: foot.v,
      };
    },
  };
}
