import { clipPlaneOf, type ClipPlane, type SectionPlane } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';

interface SectionState {
  planes: SectionPlane[];
  /** All planes at once. */
  on: boolean;
}

export const sectionStore = createStore<SectionState>()(() => ({ planes: [], on: true }));

/** The planes that cut now. */
export function cuttingPlanes(): SectionPlane[] {
  const { planes, on } = sectionStore.getState();
  return on ? planes.filter((p) => p.on) : [];
}

/** What is cut away, for drawing and picking. */
export const clipsNow = (): ClipPlane[] => cuttingPlanes().map(clipPlaneOf);
