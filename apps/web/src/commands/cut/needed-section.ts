import { keptSection, type KeptSection } from '@bathyscope/contracts/records';
import type { KeptFigure } from '@bathyscope/core/ledger';
import { changeStates } from '@bathyscope/core/visibility';
import { kept } from '../../workspace/keeping/records.ts';
import { pickOf } from '../../workspace/measuring/references.ts';
import { patchedBy, record } from '../../workspace/perform.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { recordSection } from './section-changes.ts';
import { wholePaths } from './whole-commands.ts';

/** The section as it was kept, with what it leaves whole: one step back. */
export function recallSection(ws: Workspace, { name, section, whole }: KeptSection): void {
  const paths = whole.flatMap((r) => pickOf(ws, r)?.component ?? []);
  record(
    ws,
    patchedBy(`section “${name}”`, [ws.section, ws.visibility], () => {
      ws.section.setState({ ...section, on: true });
      const uncut = changeStates(ws.visibility.getState().states, wholePaths(ws), { keptWhole: false });
      ws.visibility.setState({ states: changeStates(uncut, paths, { keptWhole: true }) });
    }),
  );
}

/** The section that a figure in a cut was measured in, where it does not cut now. */
export interface NeededSection {
  /** As it is called; null where it is not kept anywhere any more. */
  name: string | null;
  /** Of it those planes that are there and off. */
  off: readonly string[];
  kept: KeptSection | null;
}

/** @returns null where a kept figure is of no cut, or of one that is there */
export function neededSection(ws: Workspace, { of }: KeptFigure): NeededSection | null {
  const { planes, on } = ws.section.getState();
  const wanted = of.flatMap((r) => ('plane' in r && r.plane !== undefined ? [r.plane] : []));
  const missing = wanted.filter((id) => !on || !planes.some((p) => p.id === id && p.on));
  if (!missing.length) return null;
  const there = planes.filter((p) => missing.includes(p.id));
  if (there.length)
    return { name: there.map((p) => p.name).join(' and '), off: there.map((p) => p.id), kept: null };
  const section = kept(ws, keptSection).find((s) => s.section.planes.some((p) => missing.includes(p.id)));
  return { name: section?.name ?? null, off: [], kept: section ?? null };
}

/** Has it cut again: one step back. */
export function showNeeded(ws: Workspace, { off, kept: section }: NeededSection): void {
  if (section) return recallSection(ws, section);
  const planes = ws.section.getState().planes.map((p) => (off.includes(p.id) ? { ...p, on: true } : p));
  recordSection(ws, 'show the section', { on: true, planes });
}
