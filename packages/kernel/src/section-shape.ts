import {
  chainCurves,
  cross,
  dot,
  planeFrame,
  planeInPart,
  pointsAlong,
  propertiesOfCurves,
  reverseCurve,
  signedAreaOf,
  recogniseCurve,
  subtract,
  transformDirection,
  transposed,
  type CutPlane,
  type Mat4,
  type PlaneCurve,
  type Point2,
  type Vec3,
  CUT_JOINED,
  CUT_JOINED_COARSELY,
  CUT_JOINED_RELATIVE,
  SMALLEST_CUT,
  FACE_IN_PLANE,
  SAME_NORMAL,
  CUT_BEHIND,
  CUT_CHORD,
  CUT_RECOGNISED,
  KERNEL_CURVATURE,
  KERNEL_LENGTH,
} from '@bathyscope/core';
import type { LoadedKernel, Occt } from './occt/load.ts';
import { className, elementaryFrame } from './occt/memory.ts';
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
  /** Outer loops anticlockwise, holes clockwise; body by body. */
  loops: PlaneCurve[][];
  /** How many chains of curves do not close. */
  open: number;
  /** mm: how far the outlines are from the kernel's at most; 0 when all are lines, arcs and ellipses that meet. */
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

/** rad */
const TURN = 0.05;

/** Why a shape has no exact section; a sentence's end. */
export class NoSection extends Error {}

/**
 * The exact outlines that a plane cuts from a shape, by the kernel's section (BRepAlgoAPI_Section) of each of its bodies:
 * of bodies that touch, cut together, it would lose what they have in common.
 * @throws NoSection
 */
export function sectionShape(kernel: LoadedKernel, shape: Occt, frame: CuttingFrame): ShapeSection {
  const cuts = bodiesOf(kernel.oc, shape).map((body) => sectionBody(kernel, body, frame));
  return {
    loops: cuts.flatMap((c) => c.loops),
    open: cuts.reduce((sum, c) => sum + c.open, 0),
    tolerance: cuts.reduce((most, c) => Math.max(most, c.tolerance), 0),
  };
}

/** Solids; then shells and faces that belong to none. */
function bodiesOf(oc: Occt, shape: Occt): Occt[] {
  const bodies: Occt[] = [];
  explore(oc, shape, ShapeType.solid, (s) => bodies.push(s));
  explore(oc, shape, ShapeType.shell, (s) => bodies.push(s), ShapeType.solid);
  explore(oc, shape, ShapeType.face, (s) => bodies.push(s), ShapeType.shell);
  return bodies;
}

function sectionBody(kernel: LoadedKernel, body: Occt, frame: CuttingFrame): ShapeSection {
  if (!hasFaceIn(kernel.oc, body, frame)) return outlinesAt(kernel, body, frame);
  const behind = (times: number): ShapeSection => outlinesAt(kernel, body, { ...frame, constant: frame.constant - times * CUT_BEHIND });
  const [near, further] = [behind(1), behind(2)];
  // Walls that lean move the outlines: by as much from the plane to the first cut as from there to the second.
  return { ...near, tolerance: Math.max(near.tolerance, CUT_BEHIND, shiftBetween(near.loops, further.loops)) };
}

/** mm: how far outlines move from one cut to another, by their middles and by what they grow. @throws NoSection where they are not the same ones */
function shiftBetween(a: readonly PlaneCurve[][], b: readonly PlaneCurve[][]): number {
  if (a.length !== b.length) throw new NoSection('what meets the face in the plane changes too much there');
  const shift = (one: PlaneCurve[], other: PlaneCurve[]): number => {
    const [p, q] = [one, other].map((loop) => propertiesOfCurves([signedAreaOf(loop) < 0 ? [...loop].reverse().map(reverseCurve) : loop])!);
    const moved = Math.hypot(p.centroid[0] - q.centroid[0], p.centroid[1] - q.centroid[1]);
    return moved + Math.abs(p.area - q.area) / p.perimeter;
  };
  // The kernel may tell them in another order: each goes with the one that it moves least to.
  return a.reduce((most, loop) => Math.max(most, Math.min(...b.map((other) => shift(loop, other)))), 0);
}

function outlinesAt({ oc }: LoadedKernel, body: Occt, frame: CuttingFrame): ShapeSection {
  const found = curvesOfSection(oc, body, frame);
  const extent = extentOf(found.flatMap((f) => pointsAlong(f.curve)));
  if (found.length && extent < SMALLEST_CUT) throw new NoSection('this cut is too small for the kernel');
  const curves = found.map((f) => f.curve);
  const within = [CUT_JOINED, CUT_JOINED_COARSELY].map((most) => Math.min(most, extent * CUT_JOINED_RELATIVE));
  let chained = chainCurves(curves, within[0]);
  if (chained.open.some((chain) => !isContact(chain))) chained = chainCurves(curves, within[1]);
  const { loops, open, gap } = chained;
  return {
    loops,
    open: open.filter((chain) => !isContact(chain)).length,
    tolerance: Math.max(gap > CUT_JOINED ? gap : 0, ...found.map((f) => f.tolerance)),
  };
}

/** Where the plane only touches a round face the section has a line that bounds nothing. What it would miss if it were the rest of an outline shows against the mesh. */
const isContact = (chain: readonly PlaneCurve[]): boolean => chain.length === 1 && chain[0].shape === 'line';

/** Whether a planar face of a body lies in the plane. */
function hasFaceIn(oc: Occt, body: Occt, { normal, constant }: CuttingFrame): boolean {
  let found = false;
  explore(oc, body, ShapeType.face, (s) => {
    if (found) return;
    const handle = oc.BRep_Tool.Surface_2(oc.TopoDS.Face_1(s));
    const surface = handle.get();
    if (className(oc, surface) === 'Geom_Plane') {
      const { origin, axis } = elementaryFrame(oc, surface);
      found = Math.abs(dot(axis, normal)) > 1 - SAME_NORMAL && Math.abs(dot(origin, normal) - constant) < FACE_IN_PLANE;
    }
    handle.delete();
  });
  return found;
}

function extentOf(points: readonly Point2[]): number {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, y] of points) [x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
  return points.length ? Math.hypot(x1 - x0, y1 - y0) : 0;
}

interface FoundCurve {
  curve: PlaneCurve;
  /** mm */
  tolerance: number;
}

function curvesOfSection(oc: Occt, body: Occt, frame: CuttingFrame): FoundCurve[] {
  const { normal, constant } = frame;
  const point = new oc.gp_Pnt_3(normal[0] * constant, normal[1] * constant, normal[2] * constant);
  const direction = new oc.gp_Dir_4(...normal);
  const plane = new oc.gp_Pln_3(point, direction);
  const progress = new oc.Message_ProgressRange_1();
  const section = new oc.BRepAlgoAPI_Section_5(body, plane, false);
  try {
    section.ComputePCurveOn1(false);
    section.Approximation(false);
    section.Build(progress);
    if (!section.IsDone()) throw new NoSection('the kernel found no section here');
    const found: FoundCurve[] = [];
    explore(oc, section.Shape(), ShapeType.edge, (edge) => found.push(curveOfEdge(oc, oc.TopoDS.Edge_1(edge), frame)));
    return found;
  } finally {
    for (const o of [section, progress, plane, direction, point]) o.delete();
  }
}

function curveOfEdge(oc: Occt, edge: Occt, frame: CuttingFrame): FoundCurve {
  const curve = new oc.BRepAdaptor_Curve_2(edge);
  try {
    return planeCurve(oc, curve, curveClass(oc, edge), frame);
  } finally {
    curve.delete();
  }
}

function planeCurve(oc: Occt, curve: Occt, type: string, frame: CuttingFrame): FoundCurve {
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
  if (plain && plain.deviation < CUT_RECOGNISED) {
    const { deviation } = plain;
    if (plain.kind === 'line') return { curve: { shape: 'line', from: planar[0], to: planar.at(-1)! }, tolerance: deviation };
    return { curve: arcThrough(planar, flat(plain.centre), plain.radius), tolerance: deviation };
  }
  return { curve: { shape: 'polyline', points: planar, tolerance: CUT_CHORD }, tolerance: CUT_CHORD };
}

function sampled(oc: Occt, curve: Occt): Vec3[] {
  const deflection = new oc.GCPnts_TangentialDeflection_2(curve, TURN, CUT_CHORD, 2, KERNEL_CURVATURE, KERNEL_LENGTH);
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
