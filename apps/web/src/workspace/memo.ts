import type { Box3, ComponentCut, Occurrence, PickScene, PlaneCurve, Reference, Resolved, ScreenComponent } from '@bathyscope/core';

import { nothingCarried, type CarriedFrom } from './other-revisions.ts';
import type { WeighedSetNow } from './weighed.ts';
import type { Picked } from '../state/selection-store.ts';

/** A model prepared for picking. */
export interface PickIndex {
  of: unknown;
  scene: PickScene;
  onScreen: readonly ScreenComponent[];
}

/** What was computed of one model and holds until what it was computed from is another. */
export interface Memo {
  /** What counts as in a plane, mm, for these parts. */
  flush: { parts: unknown; within: number } | null;
  picking: PickIndex | null;
  /** The faces in view, for what this view shows. */
  seen: { of: readonly unknown[]; faces: readonly { item: Picked; x: number; y: number }[] } | null;
  /** What the set that is weighed weighs, for all that this is made of. */
  weighed: { of: readonly unknown[]; now: WeighedSetNow } | null;
  /** Of what is shown, for this model and this visibility. */
  shownBox: { parts: unknown; visibility: unknown; box: Box3 } | null;
  /** Names in one spelling, for these occurrences. */
  names: { of: unknown; all: readonly { o: Occurrence; names: readonly string[] }[] } | null;
  /** Reference geometry that was shown when all was switched off. */
  references: readonly string[];
  /** Where references lead, for these parts. */
  resolved: { parts: unknown; by: WeakMap<Reference, Resolved> } | null;
  /** What became of other revisions on this one. */
  carried: CarriedFrom;
  /** How parts are hatched among these components. */
  hatches: { of: unknown; byPart: ReadonlyMap<number, number> } | null;
  /** minX, minY, maxX, maxY of a cut in its plane. */
  readonly cutBoxes: WeakMap<ComponentCut, readonly [number, number, number, number]>;
  /** Curves seen in the mesh outlines of a cut. */
  readonly meshCurves: WeakMap<ComponentCut, { loops: PlaneCurve[][]; open: PlaneCurve[][] }>;
}

export const createMemo = (): Memo => ({
  flush: null,
  picking: null,
  seen: null,
  weighed: null,
  shownBox: null,
  names: null,
  references: [],
  resolved: null,
  carried: nothingCarried(),
  hatches: null,
  cutBoxes: new WeakMap(),
  meshCurves: new WeakMap(),
});
