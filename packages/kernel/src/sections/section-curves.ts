import {
  placeOnSurface,
  sineTo,
  steepestWay,
  type FreeSurface,
  type ParametricSurface,
  type PlaceOnSurface,
} from '@bathyscope/core/mass';
import {
  addScaled,
  cross,
  distanceToSegment,
  dot,
  length,
  scale,
  subtract,
  type Point2,
  type Vec3,
} from '@bathyscope/core/math';
import { recogniseCurve } from '@bathyscope/core/recognise';
import { traceCut, type PlaneCurve } from '@bathyscope/core/section';
import {
  CUT_CHORD,
  CUT_RECOGNISED,
  KERNEL_CURVATURE,
  KERNEL_LENGTH,
  ROUNDING,
  SHORT_STEP,
} from '@bathyscope/core/tolerances';
import { curveClass } from '../describing/describe-edges.ts';
import { FaceSurfaces } from '../describing/face-surface.ts';
import type { Occt } from '../occt/load.ts';
import { explore, ShapeType, takeXYZ } from '../occt/shapes.ts';
import { NoSection, type CuttingFrame } from './cutting-frame.ts';

/* What the kernel finds where a plane cuts a face, as curves of the plane with a bound of their own. */

export interface FoundCurve {
  curve: PlaneCurve;
  /** mm: how far the true curve may be from it. */
  tolerance: number;
  /**
   * How much farther off an outline lies than its face, where the plane cuts it aslant: 1/sin
   * of the angle between them.
   */
  lean: number;
  /** The plane goes through the face there, and does not only touch it. */
  crosses: boolean;
}

/** rad */
const TURN = 0.05;
/** Places of the kernel's polyline that a curve is followed from: what lies between is looked at anyway. */
const SEEDS = 24;
const LEAN_MOST = 1e6;
/** What may lie between the places that were looked at. */
const BETWEEN = 1.1;

/** The surfaces under the faces that a plane cuts; held until `delete`. */
export class CutFaces {
  private readonly oc: Occt;
  private readonly surfaces: FaceSurfaces;
  /** What the kernel made for us. */
  private readonly held: Occt[] = [];
  /** Numbers of the faces that were asked for. */
  private readonly numbers: Occt;
  private readonly known: { surface: ParametricSurface | FreeSurface; at: PlaceOnSurface }[] = [];

  constructor(oc: Occt) {
    this.oc = oc;
    this.surfaces = new FaceSurfaces(oc);
    this.numbers = new oc.TopTools_IndexedMapOfShape_1();
  }

  of(face: Occt): { surface: ParametricSurface | FreeSurface; at: PlaceOnSurface } {
    const number = this.numbers.Add(face) as number;
    if (!this.known[number]) {
      const surface = this.surfaces.of(face);
      this.known[number] = { surface, at: placeOnSurface(surface) };
    }
    return this.known[number];
  }

  /**
   * The parameters of an edge's places on a face, from its own parameters; null where it has no curve there.
   */
  parametersOf(edge: Occt, face: Occt): ((t: number) => [number, number]) | null {
    const { oc } = this;
    const [curve, surface] = [new oc.Handle_Geom2d_Curve_1(), new oc.Handle_Geom_Surface_1()];
    const [location, own] = [new oc.TopLoc_Location_1(), new oc.TopLoc_Location_1()];
    const under = oc.BRep_Tool.Surface_1(face, own);
    this.held.push(curve);
    try {
      for (let i = 1; ; i++) {
        oc.BRep_Tool.CurveOnSurface_4(edge, curve, surface, location, { current: 0 }, { current: 0 }, i);
        if (curve.IsNull()) return null;
        if (surface.get().$$.ptr !== under.get().$$.ptr) continue;
        const point = new oc.gp_Pnt2d_1();
        this.held.push(point);
        return (t) => {
          curve.get().D0(t, point);
          return [point.X(), point.Y()];
        };
      }
    } finally {
      for (const o of [under, own, location, surface]) o.delete();
    }
  }

  delete(): void {
    for (const o of [...this.held.splice(0), this.numbers, this.surfaces]) o.delete();
  }
}

/**
 * What the kernel finds where a plane cuts a body or a face.
 * @param wanted edges that are no part of it are left out
 * @throws NoSection
 */
export function curvesOfSection(
  oc: Occt,
  shape: Occt,
  faces: CutFaces,
  frame: CuttingFrame,
  wanted: (edge: Occt) => boolean = () => true,
): FoundCurve[] {
  const { normal, constant } = frame;
  const point = new oc.gp_Pnt_3(normal[0] * constant, normal[1] * constant, normal[2] * constant);
  const direction = new oc.gp_Dir_4(...normal);
  const plane = new oc.gp_Pln_3(point, direction);
  const progress = new oc.Message_ProgressRange_1();
  const section = new oc.BRepAlgoAPI_Section_5(shape, plane, false);
  try {
    section.ComputePCurveOn1(true);
    section.Approximation(false);
    section.Build(progress);
    if (!section.IsDone()) throw new NoSection('the kernel found no section here');
    const found: FoundCurve[] = [];
    explore(oc, section.Shape(), ShapeType.edge, (s) => {
      const [edge, ancestor] = [oc.TopoDS.Edge_1(s), new oc.TopoDS_Face()];
      if (wanted(edge))
        found.push(
          curveOfEdge(oc, edge, section.HasAncestorFaceOn1(edge, ancestor) ? ancestor : null, faces, frame),
        );
      ancestor.delete();
      edge.delete();
    });
    return found;
  } finally {
    for (const o of [section, progress, plane, direction, point]) o.delete();
  }
}

/** @param face that the plane cuts there; null where it is not known */
export function curveOfEdge(
  oc: Occt,
  edge: Occt,
  face: Occt | null,
  faces: CutFaces,
  frame: CuttingFrame,
): FoundCurve {
  const curve = new oc.BRepAdaptor_Curve_2(edge);
  try {
    const uv = face && faces.parametersOf(edge, face);
    const range = [curve.FirstParameter() as number, curve.LastParameter() as number] as const;
    const on = uv ? { ...faces.of(face), uv, ...angleTo(frame.normal, faces.of(face).at, uv, range) } : null;
    return {
      lean: on?.lean ?? 1,
      crosses: on?.crosses ?? true,
      ...planeCurve(oc, curve, range, curveClass(oc, edge), frame, on),
    };
  } finally {
    curve.delete();
  }
}

/** Shares of a curve at which the angle between plane and face is taken. */
const LOOKS = [0.07, 0.29, 0.5, 0.73, 0.94];

/**
 * The mean of 1/sin of the angle between a plane and a face along a curve, and whether the face
 * goes on to the other side.
 */
function angleTo(
  normal: Vec3,
  at: PlaceOnSurface,
  uv: (t: number) => [number, number],
  [first, last]: readonly [number, number],
) {
  const out = new Float64Array(9);
  const heights = (u: number, v: number) => {
    at(u, v, out);
    return dot(normal, [out[0], out[1], out[2]]);
  };
  let [lean, crossed] = [0, 0];
  for (const share of LOOKS) {
    const [u, v] = uv(first + share * (last - first));
    const here = heights(u, v);
    const [su, sv]: Vec3[] = [[out[3], out[4], out[5]], [out[6], out[7], out[8]]]; // prettier-ignore
    const sine = sineTo(normal, su, sv);
    lean += Math.min(LEAN_MOST, 1 / Math.max(sine, 1 / LEAN_MOST)) / LOOKS.length;
    // Up the steepest way and back; where there is none, any way will do.
    const [du, dv] = steepest(su, sv, normal);
    const [up, down] = [1, -1].map((way) => heights(u + way * du, v + way * dv) - here);
    if (up > 0 !== down > 0 && up !== 0 && down !== 0) crossed++;
  }
  return { lean, crosses: crossed > LOOKS.length / 2 };
}

/** A short step in parameters that rises the most. */
function steepest(su: Vec3, sv: Vec3, normal: Vec3): [number, number] {
  const way = steepestWay(normal, su, sv);
  const size = way ? length(addScaled(scale(su, way.du), sv, way.dv)) : 0;
  if (way && size > 0) return [(SHORT_STEP * way.du) / size, (SHORT_STEP * way.dv) / size];
  return [SHORT_STEP / (length(su) || 1), 0];
}

interface OnFace {
  at: PlaceOnSurface;
  uv: (t: number) => [number, number];
}

function planeCurve(
  oc: Occt,
  curve: Occt,
  [first, last]: readonly [number, number],
  type: string,
  frame: CuttingFrame,
  on: OnFace | null,
): Pick<FoundCurve, 'curve' | 'tolerance'> {
  const flat = (p: Vec3): Point2 => [dot(p, frame.u) + frame.shift[0], dot(p, frame.v) + frame.shift[1]];
  const at = (t: number): Vec3 => takeXYZ(curve.Value(t));
  const exact = (made: PlaneCurve) => ({ curve: made, tolerance: 0 });
  if (type === 'Line') return exact({ shape: 'line', from: flat(at(first)), to: flat(at(last)) });
  if (type === 'Circle' || type === 'Ellipse') {
    const conic = type === 'Circle' ? curve.Circle() : curve.Ellipse();
    const centre = takeXYZ(conic.Location());
    conic.delete();
    const [x, y] = [subtract(at(0), centre), subtract(at(Math.PI / 2), centre)];
    // Whether the curve's own sense is that of the axes it is told in.
    const sense = Math.sign(dot(cross(x, y), cross(frame.u, frame.v)));
    const major: Point2 = [dot(x, frame.u), dot(x, frame.v)];
    if (type === 'Ellipse')
      return exact({
        shape: 'ellipse',
        centre: flat(centre),
        major,
        ratio: (sense * Math.hypot(...y)) / Math.hypot(...x),
        from: first,
        to: last,
      });
    const start = Math.atan2(major[1], major[0]);
    return exact({
      shape: 'arc',
      centre: flat(centre),
      radius: Math.hypot(...x),
      from: start + sense * first,
      to: start + sense * last,
    });
  }
  const { points, between, within } =
    (on && followed(frame, on, [first, last])) ?? sampled(oc, curve, [first, last]);
  const plain = points.length > 4 ? recogniseCurve(points) : null;
  const planar = points.map(flat);
  if (plain) {
    const all = [...points, ...between];
    const off =
      BETWEEN * all.reduce((most, p) => Math.max(most, offPlain(p, plain, points[0], points.at(-1)!)), 0);
    const tolerance = off < ROUNDING ? 0 : off;
    if (tolerance < CUT_RECOGNISED && plain.kind === 'line')
      return { curve: { shape: 'line', from: planar[0], to: planar.at(-1)! }, tolerance };
    if (tolerance < CUT_RECOGNISED && plain.kind === 'circle')
      return { curve: arcThrough(planar, flat(plain.centre), plain.radius), tolerance };
  }
  return { curve: { shape: 'polyline', points: planar, tolerance: within }, tolerance: within };
}

interface Followed {
  points: Vec3[];
  /** More places of the curve. */
  between: Vec3[];
  within: number;
}

/** The curve on the surface itself, near the kernel's. */
function followed(
  { normal, constant }: CuttingFrame,
  { at, uv }: OnFace,
  [first, last]: readonly [number, number],
): Followed | null {
  const seeds = Array.from({ length: SEEDS + 1 }, (_, i) => uv(first + (i / SEEDS) * (last - first)));
  const cut = traceCut(at, { normal, constant }, seeds, CUT_CHORD / 2);
  return cut && { points: cut.points.map((p) => p.at), between: cut.between, within: BETWEEN * cut.within };
}

/** Places of a curve as the kernel has it, where its face is not known; it may itself lie off the face. */
function sampled(oc: Occt, curve: Occt, [first, last]: readonly [number, number]): Followed {
  const deflection = new oc.GCPnts_TangentialDeflection_2(
    curve,
    TURN,
    CUT_CHORD / 2,
    2,
    KERNEL_CURVATURE,
    KERNEL_LENGTH,
  );
  const count = deflection.NbPoints() as number;
  const points = Array.from({ length: count }, (_, i) => takeXYZ(deflection.Value(i + 1)));
  const times = Array.from({ length: count }, (_, i) => deflection.Parameter(i + 1) as number);
  deflection.delete();
  const between = times.slice(1).map((t, i) => takeXYZ(curve.Value((t + times[i]) / 2)));
  const within = between.reduce(
    (most, p, i) => Math.max(most, distanceToSegment(p, points[i], points[i + 1])),
    0,
  );
  return {
    points: points.length > 1 ? points : [first, last].map((t) => takeXYZ(curve.Value(t))),
    between,
    within: 2 * Math.max(within, CUT_CHORD / 2),
  };
}

function offPlain(
  p: Vec3,
  plain: NonNullable<ReturnType<typeof recogniseCurve>>,
  start: Vec3,
  end: Vec3,
): number {
  if (plain.kind === 'line') return distanceToSegment(p, start, end);
  const from = subtract(p, plain.centre);
  const up = dot(from, plain.axis);
  return Math.hypot(up, length(subtract(from, scale(plain.axis, up))) - plain.radius);
}

/** The arc that runs through points in their order. */
function arcThrough(points: readonly Point2[], centre: Point2, radius: number): PlaneCurve {
  const angle = ([x, y]: Point2) => Math.atan2(y - centre[1], x - centre[0]);
  let run = 0;
  for (let i = 1; i < points.length; i++) {
    const step = angle(points[i]) - angle(points[i - 1]);
    run += step - 2 * Math.PI * Math.round(step / (2 * Math.PI));
  }
  const from = angle(points[0]);
  return { shape: 'arc', centre, radius, from, to: from + run };
}
