import type { CutBy } from '@bathyscope/core/math';
import {
  cutPlaneOf,
  cuttingPlanes,
  flushWithin,
  type CutPlane,
  type Section,
  type SectionPlane,
} from '@bathyscope/core/section';
import type { Workspace } from '../workspace.ts';
import { derived } from '../derived/derived.ts';
import { modelBox } from '../shown/components.ts';

/** The section alone, as views keep it. */
export function sectionNow(ws: Workspace): Section {
  const { planes, on, combine } = ws.section.getState();
  return { planes, on, combine };
}

const flush = derived('what counts as in a plane', (ws) => flushWithin(modelBox(ws)));

/**
 * What counts as in a plane, mm: for what is drawn, picked and capped alike, so that no
 * face is lost between them.
 */
export const flushNow = (ws: Workspace): number => ws.derived.of(flush);

export const cutOf = (ws: Workspace, plane: SectionPlane): CutPlane =>
  cutPlaneOf(plane, flushNow(ws), ws.camera.getState().upAxis);

/** What is cut away, for drawing and picking; in one pane, or in any that shows the section. */
export function cutNow(ws: Workspace, pane?: string): CutBy {
  const section = sectionNow(ws);
  const planes = pane !== undefined && isUncut(ws, pane) ? [] : cuttingPlanes(section);
  return { planes: planes.map((plane) => cutOf(ws, plane)), combine: section.combine };
}

export const isUncut = (ws: Workspace, pane: string): boolean =>
  ws.section.getState().uncutPanes.includes(pane);
