import {
  breaksOf,
  surfaceEvaluator,
  type FreeSurface,
  type ParametricSurface,
  type SampledSurface,
  type SplineSurface,
} from '@bathyscope/core/mass';
import { SUM_ROUNDING } from '@bathyscope/core/tolerances';
import type { Occt } from '../occt/load.ts';
import { basisOf, className, copyXYZ, elementaryFrame, splineBreaks, splineSurface } from '../occt/memory.ts';

/* The surface under a face, as our own integrals want it. */

const ELEMENTARY: Record<string, ParametricSurface['kind']> = {
  Geom_Plane: 'plane',
  Geom_CylindricalSurface: 'cylinder',
  Geom_ConicalSurface: 'cone',
  Geom_SphericalSurface: 'sphere',
  Geom_ToroidalSurface: 'torus',
};

/** What a face covers of its surface's parameters. */
export interface ParameterRange {
  u: readonly [number, number];
  v: readonly [number, number];
}

/** The surfaces under the faces of a shape; what belongs to the kernel is held until `delete`. */
export class FaceSurfaces {
  private readonly oc: Occt;
  private readonly held: { delete(): void }[] = [];

  constructor(oc: Occt) {
    this.oc = oc;
  }

  /** @param uv parameters of the points of its mesh, which tell what it covers */
  of(shape: Occt, uv?: Float64Array): ParametricSurface | FreeSurface {
    const face = this.oc.TopoDS.Face_1(shape);
    const handle = this.oc.BRep_Tool.Surface_2(face);
    const surface = surfaceOfFace(this.oc, handle.get(), () =>
      uv?.length ? rangeOfUv(uv) : this.boundsOf(face),
    );
    face.delete();
    if (surface.kind === 'sampled') this.held.push(handle, { delete: surface.sampled.release! });
    else handle.delete();
    return surface;
  }

  private boundsOf(face: Occt): ParameterRange {
    const bounds = [0, 0, 0, 0].map(() => ({ current: 0 }));
    this.oc.BRepTools.UVBounds_1(face, ...bounds);
    const [u0, u1, v0, v1] = bounds.map((b) => b.current);
    return { u: [u0, u1], v: [v0, v1] };
  }

  delete(): void {
    for (const o of this.held.splice(0)) o.delete();
  }
}

function rangeOfUv(uv: Float64Array): ParameterRange {
  const [low, high] = [
    [Infinity, Infinity],
    [-Infinity, -Infinity],
  ];
  for (let i = 0; i < uv.length; i++)
    [low[i % 2], high[i % 2]] = [Math.min(low[i % 2], uv[i]), Math.max(high[i % 2], uv[i])];
  return { u: [low[0], high[0]], v: [low[1], high[1]] };
}

/**
 * Elementary surfaces by their frame, B-splines by their poles, all others (extruded, revolved, offset …) by
 * asking the kernel where they are: only places and slopes, never an integral.
 * @param surface stays alive as long as what is returned is used
 */
export function surfaceOfFace(
  oc: Occt,
  surface: Occt,
  range: () => ParameterRange,
): ParametricSurface | FreeSurface {
  const whole = untrimmedSurface(oc, surface);
  const name = className(oc, whole);
  const kind = ELEMENTARY[name];
  if (kind) return { kind, ...elementaryFrame(oc, whole) };
  const spline = name === 'Geom_BSplineSurface' ? checkedSpline(oc, surface, whole) : null;
  return spline ? { kind: 'spline', spline } : { kind: 'sampled', sampled: sampled(oc, surface, range()) };
}

const untrimmedSurface = (oc: Occt, surface: Occt): Occt =>
  className(oc, surface) === 'Geom_RectangularTrimmedSurface'
    ? untrimmedSurface(oc, basisOf(oc, surface))
    : surface;

/** Places at which a spline that was read is compared, as shares of its parameters. */
const SHARES = [0.11, 0.47, 0.83];

/** A spline as the kernel holds it, unless a place of it is not where the kernel says. */
function checkedSpline(oc: Occt, surface: Occt, whole: Occt): SplineSurface | null {
  const spline = splineSurface(oc, whole);
  if (!spline) return null;
  const [us, vs] = [breaksOf(spline.u), breaksOf(spline.v)];
  const found = new Float64Array(9);
  const evaluate = surfaceEvaluator(spline);
  const there = new oc.gp_Pnt_1();
  const size = spline.poles.reduce((most, x) => Math.max(most, Math.abs(x)), 1);
  const agrees = SHARES.every((s) => {
    const at = (ends: readonly number[]) => ends[0] + s * (ends[ends.length - 1] - ends[0]);
    evaluate(at(us), at(vs), found);
    surface.D0(at(us), at(vs), there);
    return (
      Math.hypot(found[0] - there.X(), found[1] - there.Y(), found[2] - there.Z()) <=
      SUM_ROUNDING * 1000 * size
    );
  });
  there.delete();
  return agrees ? spline : null;
}

function sampled(oc: Occt, surface: Occt, range: ParameterRange): SampledSurface {
  const [point, alongU, alongV] = [new oc.gp_Pnt_1(), new oc.gp_Vec_1(), new oc.gp_Vec_1()];
  return {
    ...piecesOfSurface(oc, untrimmedSurface(oc, surface), range),
    at(u, v, out) {
      surface.D1(u, v, point, alongU, alongV);
      copyXYZ(oc, point, out, 0);
      copyXYZ(oc, alongU, out, 3);
      copyXYZ(oc, alongV, out, 6);
    },
    release: () => [point, alongU, alongV].forEach((o) => o.delete()),
  };
}

type Pieces = Pick<SampledSurface, 'us' | 'vs' | 'degreeU' | 'degreeV'>;

/** Of what class a surface is tells where it may not be smooth. */
function piecesOfSurface(oc: Occt, surface: Occt, range: ParameterRange): Pieces {
  const name = className(oc, surface);
  if (name === 'Geom_SurfaceOfLinearExtrusion') {
    const curve = piecesOfCurve(oc, basisOf(oc, surface), range.u);
    return { us: curve.breaks, degreeU: curve.degree, vs: range.v, degreeV: 1 };
  }
  if (name === 'Geom_SurfaceOfRevolution') {
    const curve = piecesOfCurve(oc, basisOf(oc, surface), range.v);
    return { us: quarters(range.u), vs: curve.breaks, degreeV: curve.degree };
  }
  if (name === 'Geom_OffsetSurface') {
    const basis = untrimmedSurface(oc, basisOf(oc, surface));
    // An offset has the pieces of its basis, but is polynomial only where that is plane.
    const { us, vs } = piecesOfSurface(oc, basis, range);
    return { us, vs };
  }
  if (name === 'Geom_BSplineSurface') {
    const spline = splineSurface(oc, surface);
    return spline ? { us: breaksOf(spline.u), vs: breaksOf(spline.v) } : { us: range.u, vs: range.v };
  }
  const round = {
    u: name in ELEMENTARY && name !== 'Geom_Plane',
    v: name === 'Geom_SphericalSurface' || name === 'Geom_ToroidalSurface',
  };
  return { us: round.u ? quarters(range.u) : range.u, vs: round.v ? quarters(range.v) : range.v };
}

/** Of what class a curve is tells where it may not be smooth, and whether it is a polynomial. */
function piecesOfCurve(
  oc: Occt,
  curve: Occt,
  range: readonly [number, number],
): { breaks: readonly number[]; degree?: number } {
  const name = className(oc, curve);
  if (name === 'Geom_TrimmedCurve') return piecesOfCurve(oc, basisOf(oc, curve), range);
  if (name === 'Geom_OffsetCurve') return { breaks: piecesOfCurve(oc, basisOf(oc, curve), range).breaks };
  if (name === 'Geom_Line') return { breaks: range, degree: 1 };
  if (name === 'Geom_Parabola') return { breaks: range, degree: 2 };
  if (name === 'Geom_Circle' || name === 'Geom_Ellipse') return { breaks: quarters(range) };
  const breaks = name === 'Geom_BSplineCurve' ? splineBreaks(oc, curve) : null;
  return { breaks: breaks ?? range };
}

/** Breaks a quarter of a turn apart at most, over all of a range. */
function quarters([from, to]: readonly [number, number]): number[] {
  const count = Math.max(1, Math.ceil((to - from) / (Math.PI / 2)));
  return Array.from({ length: count + 1 }, (_, i) => from + (i * (to - from)) / count);
}
