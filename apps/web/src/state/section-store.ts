import { clipPlaneOf, cutPlaneOf, cuttingPlanes, flushWithin, NO_SECTION, type ClipPlane, type CutPlane, type Section, type SectionPlane } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';
import { modelBox } from './model-store.ts';
import type { Workspace } from '../workspace/workspace.ts';

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

export const createSectionState = () => createStore<SectionState>()(() => ({ ...NO_SECTION, active: null, before: null, uncutPanes: [], step: 1, axes: false }));

/** The section alone, as views keep it. */
export function sectionNow(ws: Workspace): Section {
  const { planes, on, combine } = ws.section.getState();
  return { planes, on, combine };
}

/** What counts as in a plane, mm: for what is drawn, picked and capped alike, so that no face is lost between them. */
export function flushNow(ws: Workspace): number {
  const { parts } = ws.model.getState();
  if (ws.memo.flush?.parts !== parts) ws.memo.flush = { parts, within: flushWithin(modelBox(ws)) };
  return ws.memo.flush.within;
}

export const cutOf = (ws: Workspace, plane: SectionPlane): CutPlane => cutPlaneOf(plane, flushNow(ws), ws.camera.getState().upAxis);
export const clipOf = (ws: Workspace, plane: SectionPlane): ClipPlane => clipPlaneOf(plane, flushNow(ws));

/** What is cut away, for drawing and picking; in one pane, or in any that shows the section. */
export const clipsNow = (ws: Workspace, pane?: string): ClipPlane[] => (pane !== undefined && isUncut(ws, pane) ? [] : cuttingPlanes(sectionNow(ws)).map((plane) => clipOf(ws, plane)));

export const isUncut = (ws: Workspace, pane: string): boolean => ws.section.getState().uncutPanes.includes(pane);
