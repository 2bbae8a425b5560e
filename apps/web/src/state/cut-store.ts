import { curvesOfChain, curvesOfLoop, type CutPlane, type ComponentCut, type PlaneCurve, type PlaneFrame, type Point2, type SectionPlane, type SectionProperties } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';
import type { Workspace } from '../workspace/workspace.ts';

/** What the kernel says of a component's cut; or why the mesh has to do. */
export type ExactAnswer = { loops: PlaneCurve[][]; properties: SectionProperties | null; tolerance: number } | { failed: string };

/** One plane's cut as it is drawn. */
export interface PlaneCut {
  plane: SectionPlane;
  cut: CutPlane;
  frame: PlaneFrame;
  cuts: ComponentCut[];
}

export interface CutState {
  made: PlaneCut[];
  /** Paths of components kept whole that are seen: no plane cuts them. */
  whole: ReadonlySet<string>;
  /** By plane, then by component's index; what is not there yet is being asked or was not. */
  exact: ReadonlyMap<string, ReadonlyMap<number, ExactAnswer>>;
  /** Whether the kernel is being asked. */
  asking: boolean;
}

/** Nothing is exact yet: always the same, so that the store tells when that changes. */
export const NO_ANSWERS: CutState['exact'] = new Map();

/** What the section's planes cut now, from the mesh, and exactly where the kernel has answered. */
export const createCutsState = () => createStore<CutState>()(() => ({ made: [], whole: new Set(), exact: NO_ANSWERS, asking: false }));

/** A component's cut by the best that is known. */
export interface BestCut {
  properties: SectionProperties | null;
  exact: boolean;
  /** mm: how far outlines may be off. */
  within: number;
  /** Why it is from the mesh although there is an exact shape. */
  note?: string;
}

export const chordOf = (ws: Workspace, component: number): number => {
  const { components, parts } = ws.model.getState();
  return parts.get(components[component].part)?.geometry.chordTolerance ?? 0;
};

export function bestCut(ws: Workspace, planeId: string, cut: ComponentCut): BestCut {
  const answer = ws.cut.getState().exact.get(planeId)?.get(cut.component);
  if (answer && 'loops' in answer) return { properties: answer.properties, exact: true, within: answer.tolerance };
  return { properties: cut.properties, exact: false, within: chordOf(ws, cut.component), ...(answer && { note: answer.failed }) };
}

/** The best known figures of all cuts of a plane. */
export const figuresOf = (ws: Workspace, { plane, cuts }: PlaneCut) => cuts.map((cut) => ({ cut, best: bestCut(ws, plane.id, cut) }));

function curvesInMesh(ws: Workspace, cut: ComponentCut) {
  let found = ws.memo.meshCurves.get(cut);
  const tolerance = chordOf(ws, cut.component);
  if (!found) ws.memo.meshCurves.set(cut, (found = { loops: cut.loops.map((l) => curvesOfLoop(l, tolerance)), open: cut.open.map((c) => curvesOfChain(c, tolerance)) }));
  return found;
}

/** The loops of a component's cut as curves: the kernel's, else those seen in the mesh. */
export function loopsOf(ws: Workspace, planeId: string, cut: ComponentCut): PlaneCurve[][] {
  const answer = ws.cut.getState().exact.get(planeId)?.get(cut.component);
  return answer && 'loops' in answer ? answer.loops : curvesInMesh(ws, cut).loops;
}

/** The outlines that do not close, as curves. */
export const openOf = (ws: Workspace, cut: ComponentCut): PlaneCurve[][] => curvesInMesh(ws, cut).open;

/** All curves of a component's cut in one list: what the number of a picked outline or corner counts. */
export const curvesOf = (ws: Workspace, planeId: string, cut: ComponentCut): PlaneCurve[] => [...loopsOf(ws, planeId, cut), ...openOf(ws, cut)].flat();

/** minX, minY, maxX, maxY of a cut in its plane. */
export function boxOfCut(ws: Workspace, cut: ComponentCut): readonly [number, number, number, number] {
  let box = ws.memo.cutBoxes.get(cut);
  if (!box) {
    const points = [...cut.loops, ...cut.open].flat();
    box = points.reduce<[number, number, number, number]>(([a, b, c, d], [x, y]: Point2) => [Math.min(a, x), Math.min(b, y), Math.max(c, x), Math.max(d, y)], [Infinity, Infinity, -Infinity, -Infinity]);
    ws.memo.cutBoxes.set(cut, box);
  }
  return box;
}
