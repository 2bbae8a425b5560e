import { clipPlaneOf, cuttingPlanes, NO_SECTION, type ClipPlane, type Section } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';

interface SectionState extends Section {
  /** The plane whose handle is in the scene. */
  active: string | null;
  /** What Esc goes back to while a plane is being set. */
  before: Section | null;
  /** Ids of panes that show the model uncut. */
  uncutPanes: string[];
  /** mm of one step by arrow key. */
  step: number;
  /** Centroid and principal axes of each cut are drawn. */
  axes: boolean;
}

export const sectionStore = createStore<SectionState>()(() => ({ ...NO_SECTION, active: null, before: null, uncutPanes: [], step: 1, axes: false }));

/** The section alone, as views keep it. */
export function sectionNow(): Section {
  const { planes, on, combine } = sectionStore.getState();
  return { planes, on, combine };
}

/** What is cut away, for drawing and picking; in one pane, or in any that shows the section. */
export const clipsNow = (pane?: string): ClipPlane[] => (pane !== undefined && isUncut(pane) ? [] : cuttingPlanes(sectionNow()).map(clipPlaneOf));

export const isUncut = (pane: string): boolean => sectionStore.getState().uncutPanes.includes(pane);
