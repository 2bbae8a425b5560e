import type { Point2 } from '@bathyscope/core/math';
import { curvesOfChain, curvesOfLoop, type ComponentCut, type PlaneCurve } from '@bathyscope/core/section';
import { derivedBy } from '../derived/derived.ts';
import type { Workspace } from '../workspace.ts';
import { type PlaneCut, type BestCut } from '../../state/cut-store.ts';

export const chordOf = (ws: Workspace, component: number): number => {
  const { components, parts } = ws.model.getState();
  return parts.get(components[component].part)?.geometry.chordTolerance ?? 0;
};

export function bestCut(ws: Workspace, planeId: string, cut: ComponentCut): BestCut {
  const answer = ws.cut.getState().exact.get(planeId)?.get(cut.component);
  if (answer && 'loops' in answer)
    return { properties: answer.properties, exact: true, within: answer.tolerance };
  return {
    properties: cut.properties,
    exact: false,
    within: chordOf(ws, cut.component) * cut.lean.most,
    ...(answer && { note: answer.failed }),
  };
}

/** The best known figures of all cuts of a plane. */
export const figuresOf = (ws: Workspace, { plane, cuts }: PlaneCut) =>
  cuts.map((cut) => ({ cut, best: bestCut(ws, plane.id, cut) }));

/** Curves seen in the mesh outlines of a cut. */
const meshCurves = derivedBy('the curves of a cut', (ws, cut: ComponentCut) => {
  const tolerance = chordOf(ws, cut.component);
  return {
    loops: cut.loops.map((l) => curvesOfLoop(l, tolerance)),
    open: cut.open.map((c) => curvesOfChain(c, tolerance)),
  };
});

const curvesInMesh = (ws: Workspace, cut: ComponentCut) => ws.derived.of(meshCurves, cut);

/** The loops of a component's cut as curves: the kernel's, else those seen in the mesh. */
export function loopsOf(ws: Workspace, planeId: string, cut: ComponentCut): PlaneCurve[][] {
  const answer = ws.cut.getState().exact.get(planeId)?.get(cut.component);
  return answer && 'loops' in answer ? answer.loops : curvesInMesh(ws, cut).loops;
}

/** The outlines that do not close, as curves. */
export const openOf = (ws: Workspace, cut: ComponentCut): PlaneCurve[][] => curvesInMesh(ws, cut).open;

/** All curves of a component's cut in one list: what the number of a picked outline or corner counts. */
export const curvesOf = (ws: Workspace, planeId: string, cut: ComponentCut): PlaneCurve[] =>
  [...loopsOf(ws, planeId, cut), ...openOf(ws, cut)].flat();

const cutBox = derivedBy('the box of a cut', (_, cut: ComponentCut) =>
  [...cut.loops, ...cut.open]
    .flat()
    .reduce<readonly [number, number, number, number]>(
      ([a, b, c, d], [x, y]: Point2) => [Math.min(a, x), Math.min(b, y), Math.max(c, x), Math.max(d, y)],
      [Infinity, Infinity, -Infinity, -Infinity],
    ),
);

/** minX, minY, maxX, maxY of a cut in its plane. */
export const boxOfCut = (ws: Workspace, cut: ComponentCut): readonly [number, number, number, number] =>
  ws.derived.of(cutBox, cut);
