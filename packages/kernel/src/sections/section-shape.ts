import type { Point2 } from '@bathyscope/core/math';
import { chainCurves, curveLength, pointsAlong, type PlaneCurve } from '@bathyscope/core/section';
import {
  CUT_EXACT,
  CUT_JOINED,
  CUT_JOINED_COARSELY,
  CUT_JOINED_RELATIVE,
  CUT_MEETS,
  SMALLEST_CUT,
} from '@bathyscope/core/tolerances';
import { NoSection, type CuttingFrame } from './cutting-frame.ts';
import type { LoadedKernel, Occt } from '../occt/load.ts';
import { explore, indexedMap, ShapeType } from '../occt/shapes.ts';
import { contactCurves, edgesInPlane } from './section-contact.ts';
import { CutFaces, curvesOfSection, type FoundCurve } from './section-curves.ts';

export interface ShapeSection {
  /** Outer loops anticlockwise, holes clockwise; body by body. */
  loops: PlaneCurve[][];
  /** How many chains of curves do not close. */
  open: number;
  /**
   * mm: how far the outlines may be from the true ones; 0 when all are lines, arcs and ellipses that meet.
   */
  tolerance: number;
  /**
   * How much farther off an outline lies than its face on the average, where the plane cuts it
   * aslant: 1/sin of the angle.
   */
  lean: number;
  /**
   * Closed curves in which the plane only touches the shape, which bound nothing: a mesh may be cut there.
   */
  touches: PlaneCurve[][];
}

/**
 * The exact outlines that a plane cuts from a shape, by the kernel's section (BRepAlgoAPI_Section) of each of
 * its bodies, each curve followed on the surface itself; of bodies that touch, cut together, it would lose
 * what they have in common.
 * @throws NoSection
 */
export function sectionShape({ oc }: LoadedKernel, shape: Occt, frame: CuttingFrame): ShapeSection {
  const faces = new CutFaces(oc);
  try {
    const cuts = bodiesOf(oc, shape).map(({ body, solid }) => sectionBody(oc, body, solid, faces, frame));
    const run = cuts.reduce((sum, c) => sum + c.run, 0);
    return {
      loops: cuts.flatMap((c) => c.loops),
      open: cuts.reduce((sum, c) => sum + c.open, 0),
      tolerance: toldFrom(cuts.reduce((most, c) => Math.max(most, c.tolerance), 0)),
      lean: run > 0 ? cuts.reduce((sum, c) => sum + c.lean * c.run, 0) / run : 1,
      touches: cuts.flatMap((c) => c.touches),
    };
  } finally {
    faces.delete();
  }
}

const toldFrom = (tolerance: number): number => (tolerance < CUT_EXACT ? 0 : tolerance);

/** Solids; then shells and faces that belong to none. */
function bodiesOf(oc: Occt, shape: Occt): { body: Occt; solid: boolean }[] {
  const bodies: { body: Occt; solid: boolean }[] = [];
  explore(oc, shape, ShapeType.solid, (body) => bodies.push({ body, solid: true }));
  explore(oc, shape, ShapeType.shell, (body) => bodies.push({ body, solid: false }), ShapeType.solid);
  explore(oc, shape, ShapeType.face, (body) => bodies.push({ body, solid: false }), ShapeType.shell);
  return bodies;
}

/** @returns also `run`, mm: the length of all curves */
function sectionBody(
  oc: Occt,
  body: Occt,
  solid: boolean,
  faces: CutFaces,
  frame: CuttingFrame,
): ShapeSection & { run: number } {
  const found = curvesOfBody(oc, body, solid, faces, frame);
  const extent = extentOf(found.flatMap((f) => pointsAlong(f.curve)));
  if (found.length && extent < SMALLEST_CUT) throw new NoSection('this cut is too small for the kernel');
  const curves = found.filter((f) => f.crosses).map((f) => f.curve);
  const within = [CUT_JOINED, CUT_JOINED_COARSELY].map((most) =>
    Math.min(most, extent * CUT_JOINED_RELATIVE),
  );
  let chained = chainCurves(curves, within[0]);
  if (chained.open.some((chain) => !isContact(chain))) chained = chainCurves(curves, within[1]);
  const { loops, open, gap } = chained;
  const run = curves.reduce((sum, c) => sum + curveLength(c), 0);
  return {
    loops,
    open: open.filter((chain) => !isContact(chain)).length,
    tolerance: Math.max(gap > CUT_MEETS ? gap : 0, ...found.map((f) => f.tolerance)),
    lean:
      run > 0 ? found.reduce((sum, f) => sum + (f.crosses ? f.lean * curveLength(f.curve) : 0), 0) / run : 1,
    touches: chainCurves(
      found.filter((f) => !f.crosses).map((f) => f.curve),
      within[0],
    ).loops,
    run,
  };
}

function curvesOfBody(
  oc: Occt,
  body: Occt,
  solid: boolean,
  faces: CutFaces,
  frame: CuttingFrame,
): FoundCurve[] {
  if (!solid) return curvesOfSection(oc, body, faces, frame);
  const edgeMap = indexedMap(oc, body, ShapeType.edge);
  try {
    const inPlane = edgesInPlane(oc, edgeMap, frame);
    return inPlane.length
      ? contactCurves(oc, body, edgeMap, inPlane, faces, frame)
      : curvesOfSection(oc, body, faces, frame);
  } finally {
    edgeMap.delete();
  }
}

/**
 * Where the plane only touches a round face the section has a line that bounds nothing. What it would miss if
 * it were the rest of an outline shows against the mesh.
 */
const isContact = (chain: readonly PlaneCurve[]): boolean => chain.length === 1 && chain[0].shape === 'line';

function extentOf(points: readonly Point2[]): number {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, y] of points)
    [x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
  return points.length ? Math.hypot(x1 - x0, y1 - y0) : 0;
}
