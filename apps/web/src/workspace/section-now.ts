import {
  clipPlaneOf,
  cutPlaneOf,
  cuttingPlanes,
  flushWithin,
  type ClipPlane,
  type CutPlane,
  type Section,
  type SectionPlane,
} from '@bathyscope/core';
import type { Workspace } from './workspace.ts';
import { derived } from './derived/derived.ts';
import { modelBox } from './components.ts';

/** The section alone, as views keep it. */
export function sectionNow(ws: Workspace): Section {
  const { planes, on, combine } = ws.section.getState();
  return { planes, on, combine };
}

const flush = derived('what counts as in a plane', (ws) => flushWithin(modelBox(ws)));

/** What counts as in a plane, mm: for what is drawn, picked and capped alike, so that no face is lost between them. */
export const flushNow = (ws: Workspace): number => ws.derived.of(flush);

export const cutOf = (ws: Workspace, plane: SectionPlane): CutPlane => cutPlaneOf(plane, flushNow(ws), ws.camera.getState().upAxis);

export const clipOf = (ws: Workspace, plane: SectionPlane): ClipPlane => clipPlaneOf(plane, flushNow(ws));

/** What is cut away, for drawing and picking; in one pane, or in any that shows the section. */
export const clipsNow = (ws: Workspace, pane?: string): ClipPlane[] =>
  pane !== undefined && isUncut(ws, pane) ? [] : cuttingPlanes(sectionNow(ws)).map((plane) => clipOf(ws, plane));

export const isUncut = (ws: Workspace, pane: string): boolean => ws.section.getState().uncutPanes.includes(pane);
