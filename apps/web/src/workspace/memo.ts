import type { ComponentCut, PlaneCurve } from '@bathyscope/core';

/** What was computed of one model and holds until what it was computed from is another. */
export interface Memo {
  /** What counts as in a plane, mm, for these parts. */
  flush: { parts: unknown; within: number } | null;
  /** How parts are hatched among these components. */
  hatches: { of: unknown; byPart: ReadonlyMap<number, number> } | null;
  /** minX, minY, maxX, maxY of a cut in its plane. */
  readonly cutBoxes: WeakMap<ComponentCut, readonly [number, number, number, number]>;
  /** Curves seen in the mesh outlines of a cut. */
  readonly meshCurves: WeakMap<ComponentCut, { loops: PlaneCurve[][]; open: PlaneCurve[][] }>;
}

export const createMemo = (): Memo => ({ flush: null, hatches: null, cutBoxes: new WeakMap(), meshCurves: new WeakMap() });
