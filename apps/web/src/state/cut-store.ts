import {
  type CutPlane,
  type ComponentCut,
  type PlaneCurve,
  type PlaneFrame,
  type SectionPlane,
  type SectionProperties,
} from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';
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
export const NO_ANSWERS: CutState['exact'] = new Map([]);

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
