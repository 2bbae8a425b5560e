import {
  chainCurves,
  cross,
  dot,
  planeFrame,
  planeInPart,
  recogniseCurve,
  subtract,
  transformDirection,
  transposed,
  type CutPlane,
  type Mat4,
  type PlaneCurve,
  type Point2,
  type Vec3,
} from '@bathyscope/core';
import type { LoadedKernel, Occt } from './occt/load.ts';
import { explore, ShapeType, takeXYZ } from './occt/shapes.ts';
import { curveClass } from './describe-edges.ts';

/** A plane in a part's own frame, and the axes that its cut is told in: x = u · p + shift[0], y = v · p + shift[1]. */
export interface CuttingFrame {
  /** Points p with normal · p = constant; unit normal, mm. */
  normal: Vec3;
  constant: number;
  /** Unit, in the plane; u × v may point either way. */
  u: Vec3;
  v: Vec3;
  shift: Point2;
}

export interface ShapeSection {
  /** Outer loops anticlockwise, holes clockwise. */
  loops: PlaneCurve[][];
  /** How many chains of curves do not close. */
  open: number;
  /** mm: how far the drawn curves are from the kernel's at most; 0 when all are lines, arcs and ellipses. */
  tolerance: number;
}

/** The axes of core's `planeFrame` for a plane of the model, in the frame of a part that is placed there. */
export function cuttingFrame(plane: CutPlane, placement: Mat4): CuttingFrame {
  const { u, v } = planeFrame(plane);
  const back = transposed(placement);
  const at: Vec3 = [placement[12], placement[13], placement[14]];
  return {
    ...planeInPart(plane, placement),
    u: transformDirection(back, u),
    v: transformDirection(back, v),
    shift: [dot(u, at), dot(v, at)],
  };
}

/** mm: ends of curves nearer than this are one. */
const JOINED = 1e-3;
/** mm: how far polylines may be from free curves. */
const CHORD = 1e-4;
/** rad */
const TURN = 0.05;
/** mm: lines and circles recognised in free curves that are nearer than this stand for them. */
const RECOGNISED = 1e-4;

/** The exact outlines that a plane cuts from a shape, by the kernel's section (BRepAlgoAPI_Section). */
export function sectionShape({ oc }: LoadedKernel, shape: Occt, frame: CuttingFrame): ShapeSection {
  const { normal, constant } = frame;
  const point = new oc.gp_Pnt_3(normal[0] * constant, normal[1] * constant, normal[2] * constant);
  const direction = new oc.gp_Dir_4(...normal);
  const plane = new oc.gp_Pln_3(point, direction);
  const progress = new oc.Message_ProgressRange_1();
  const section = new oc.BRepAlgoAPI_Section_5(shape, plane, false);
  try {
    section.ComputePCurveOn1(false);
    section.Approximation(false);
    section.Build(progress);
    if (!section.IsDone()) throw new Error('The kernel found no section here.');
    const found: { curve: PlaneCurve; tolerance: number }[] = [];
    explore(oc, section.Shape(), ShapeType.edge, (edge) => found.push(curveOfEdge(oc, oc.TopoDS.Edge_1(edge), frame)));
    const { loops, open } = chainCurves(
      found.map((f) => f.curve),
      JOINED,
    );
    return { loops, open: open.length, tolerance: found.reduce((most, f) => Math.max(most, f.tolerance), 0) };
  } finally {
    for (const o of [section, progress, plane, direction, point]) o.delete();
  }
}

function curveOfEdge(oc: Occt, edge: Occt, frame: CuttingFrame): { curve: PlaneCurve; tolerance: number } {
  const curve = new oc.BRepAdaptor_Curve_2(edge);
  try {
    return planeCurve(oc, curve, curveClass(oc, edge), frame);
  } finally {
    curve.delete();
  }
}

function planeCurve(oc: Occt, curve: Occt, type: string, frame: CuttingFrame): { curve: PlaneCurve; tolerance: number } {
  const flat = (p: Vec3): Point2 => [dot(p, frame.u) + frame.shift[0], dot(p, frame.v) + frame.shift[1]];
  const [first, last] = [curve.FirstParameter() as number, curve.LastParameter() as number];
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
    return exact({ shape: 'arc', centre: flat(centre), radius: Math.hypot(...x), from: start + sense * first, to: start + sense * last });
  }
  const points = sampled(oc, curve);
  const plain = points.length > 4 ? recogniseCurve(points) : null;
  const planar = points.map(flat);
  if (plain && plain.deviation < RECOGNISED) {
    const { deviation } = plain;
    if (plain.kind === 'line') return { curve: { shape: 'line', from: planar[0], to: planar.at(-1)! }, tolerance: deviation };
    return { curve: arcThrough(planar, flat(plain.centre), plain.radius), tolerance: deviation };
  }
  return { curve: { shape: 'polyline', points: planar, tolerance: CHORD }, tolerance: CHORD };
}

function sampled(oc: Occt, curve: Occt): Vec3[] {
  const deflection = new oc.GCPnts_TangentialDeflection_2(curve, TURN, CHORD, 2, 1e-9, 1e-7);
  const points = Array.from({ length: deflection.NbPoints() as number }, (_, i) => takeXYZ(deflection.Value(i + 1)));
  deflection.delete();
  return points;
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
