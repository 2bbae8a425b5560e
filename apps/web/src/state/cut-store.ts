import type { Combination } from '@bathyscope/core/math';
import type {
  CutPlane,
  ComponentCut,
  JudgedCut,
  PlaneFrame,
  SectionPlane,
  SectionProperties,
} from '@bathyscope/core/section';
import { createStore } from './tracked-store.ts';
import type { CapBuffers } from '../workers/section-work.ts';

/** One plane's cut. */
export interface PlaneCut {
  plane: SectionPlane;
  cut: CutPlane;
  frame: PlaneFrame;
  cuts: ComponentCut[];
  /** What is drawn of it. */
  buffers?: CapBuffers;
}

export interface CutState {
  results: PlaneCut[];
  /** How the planes act together. */
  combine: Combination;
  /** Caps have no triangles yet: a hand moves the plane faster than they are made. */
  outlinesOnly: boolean;
  /** Paths of components kept whole that are seen: no plane cuts them. */
  whole: ReadonlySet<string>;
  /** By plane, then by component's index; what is not there yet is being asked or was not. */
  exact: ReadonlyMap<string, ReadonlyMap<number, JudgedCut>>;
  /** Whether the kernel is being asked. */
  asking: boolean;
}

/** Nothing is exact yet: always the same, so that the store tells when that changes. */
export const NO_ANSWERS: CutState['exact'] = new Map([]);

export const NOTHING_CUT: CutState = {
  results: [],
  combine: 'any',
  outlinesOnly: false,
  whole: new Set(),
  exact: NO_ANSWERS,
  asking: false,
};

/** What the section's planes cut now, from the mesh, and exactly where the kernel has answered. */
export const createCutsState = () => createStore<CutState>()(() => NOTHING_CUT);

/** A component's cut by the best that is known. */
export interface BestCut {
  properties: SectionProperties | null;
  exact: boolean;
  /** mm: how far outlines may be off. */
  within: number;
  /** Why it is from the mesh although there is an exact shape. */
  note?: string;
}
