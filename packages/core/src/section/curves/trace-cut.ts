import { SUM_ROUNDING, TINY } from '../../tolerances.ts';
import { sineTo, steepestWay, type PlaceOnSurface } from '../../mass/surface-place.ts';
import { distanceToSegment } from '../../math/segment-distance.ts';
import { dot, length, type Vec3 } from '../../math/vec3.ts';

/*
 * The curve in which a plane cuts a surface, followed on the surface itself: whoever found it first tells
 * only about where it is.
 */

/** A place of the curve. */
export interface TracedPoint {
  at: Vec3;
  u: number;
  v: number;
  /** Sine of the angle between the plane and the surface there. */
  sine: number;
}

export interface TracedCut {
  /** The corners of a polyline. */
  points: TracedPoint[];
  /** Further places of the curve, between them. */
  between: Vec3[];
  /** mm: how far the curve lies from the polyline at most, as far as was looked. */
  within: number;
}

/** Newton's method ends far sooner. */
const STEPS = 12;
const DEEPEST = 16;
/** Shares of a piece at which the curve is looked at. */
const LOOKS = [0.25, 0.5, 0.75];

/**
 * @param plane points p with normal · p = constant; unit normal
 * @param seeds parameters of places near the curve, in order along it
 * @param chord mm: how far the polyline may be from the curve
 * @returns null where the curve is lost: the plane touches the surface there
 */
export function traceCut(
  at: PlaceOnSurface,
  plane: { normal: Vec3; constant: number },
  seeds: readonly (readonly [u: number, v: number])[],
  chord: number,
): TracedCut | null {
  const found = seeds.map(([u, v]) => ontoPlane(at, plane, u, v));
  if (found.length < 2 || found.some((p) => p === null)) return null;
  const cut: TracedCut = { points: [found[0]!], between: [], within: 0 };
  for (let i = 1; i < found.length; i++)
    if (!follow(at, plane, found[i - 1]!, found[i]!, chord, 0, cut)) return null;
  return cut;
}

/** Adds what lies between two places of the curve, and the second of them. */
function follow(
  at: PlaceOnSurface,
  plane: { normal: Vec3; constant: number },
  from: TracedPoint,
  to: TracedPoint,
  chord: number,
  depth: number,
  cut: TracedCut,
): boolean {
  const looked = LOOKS.map((s) =>
    ontoPlane(at, plane, from.u + s * (to.u - from.u), from.v + s * (to.v - from.v)),
  );
  if (looked.some((p) => p === null)) return false;
  const off = Math.max(...looked.map((p) => distanceToSegment(p!.at, from.at, to.at)));
  if (off > chord && depth < DEEPEST) {
    const middle = looked[1]!;
    return (
      follow(at, plane, from, middle, chord, depth + 1, cut) &&
      follow(at, plane, middle, to, chord, depth + 1, cut)
    );
  }
  cut.within = Math.max(cut.within, off);
  cut.between.push(...looked.map((p) => p!.at));
  cut.points.push(to);
  return true;
}

/** The nearest place of a surface in the plane, from a place near it; the shortest way in space. */
export function ontoPlane(
  at: PlaceOnSurface,
  { normal, constant }: { normal: Vec3; constant: number },
  u: number,
  v: number,
): TracedPoint | null {
  const out = new Float64Array(9);
  for (let step = 0; ; step++) {
    at(u, v, out);
    const place: Vec3 = [out[0], out[1], out[2]];
    const [su, sv]: [Vec3, Vec3] = [
      [out[3], out[4], out[5]],
      [out[6], out[7], out[8]],
    ];
    const height = dot(normal, place) - constant;
    if (Math.abs(height) <= SUM_ROUNDING * Math.max(1, Math.abs(constant), length(place)) || step === STEPS)
      return Math.abs(height) <= SUM_ROUNDING * MUCH * Math.max(1, length(place))
        ? { at: place, u, v, sine: sineTo(normal, su, sv) }
        : null;
    const way = steepestWay(normal, su, sv);
    if (!way || !(way.rise > TINY * TINY)) return null;
    u -= (height * way.du) / way.rise;
    v -= (height * way.dv) / way.rise;
  }
}

/** Beside a touching plane Newton's method is slow and rounding large. */
const MUCH = 1e4;
