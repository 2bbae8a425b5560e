import { clipPlaneOf, cutPlaneOf, cuttingPlanes, flushWithin, NO_SECTION, type ClipPlane, type CutPlane, type Section, type SectionPlane } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';
import { cameraStore } from './camera-store.ts';
import { modelBox, modelStore } from './model-store.ts';

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

let flush: { parts: unknown; within: number } | null = null;

/** What counts as in a plane, mm: for what is drawn, picked and capped alike, so that no face is lost between them. */
export function flushNow(): number {
  const { parts } = modelStore.getState();
  if (flush?.parts !== parts) flush = { parts, within: flushWithin(modelBox()) };
  return flush.within;
}

export const cutOf = (plane: SectionPlane): CutPlane => cutPlaneOf(plane, flushNow(), cameraStore.getState().upAxis);
export const clipOf = (plane: SectionPlane): ClipPlane => clipPlaneOf(plane, flushNow());

/** What is cut away, for drawing and picking; in one pane, or in any that shows the section. */
export const clipsNow = (pane?: string): ClipPlane[] => (pane !== undefined && isUncut(pane) ? [] : cuttingPlanes(sectionNow()).map(clipOf));

export const isUncut = (pane: string): boolean => sectionStore.getState().uncutPanes.includes(pane);
