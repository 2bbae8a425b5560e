import { boxCorners, dot, subtract } from '@bathyscope/core/math';
import {
  MAX_PLANES,
  offsetAt,
  planePosition,
  type PlanePlace,
  type Section,
  type SectionPlane,
} from '@bathyscope/core/section';
import { v4 as uuid } from 'uuid';
import { ownSystem } from '../../workspace/measuring/systems.ts';
import { shownBox } from '../../workspace/shown/shown.ts';
import { type Inverse } from '../../state/history-store.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { sectionNow } from '../../workspace/cutting/section-now.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';
import { patched } from '../../workspace/perform.ts';

/** Changes the section so that it can be undone. */
export function changeSection(ws: Workspace, name: string, change: Partial<Section>): Inverse {
  return patched(name, ws.section, change);
}

export const recordSection = (ws: Workspace, name: string, change: Partial<Section>): void =>
  ws.history.getState().record(changeSection(ws, name, change));

export function changePlane(ws: Workspace, id: string, values: Partial<SectionPlane>): SectionPlane[] {
  return ws.section.getState().planes.map((p) => (p.id === id ? { ...p, ...values } : p));
}

/** What dragging changes. */
const moved = ({ planes, on }: Section): Partial<Section> => ({ planes, on });

/** A change by dragging: seen at once, one step back for all of it. */
export function startDrag(
  ws: Workspace,
  name: string,
): { move: (planes: SectionPlane[]) => void; end: () => void; abandon: () => void } {
  const before = sectionNow(ws);
  return {
    move: (planes) => ws.section.setState({ planes, on: true }),
    abandon: () => ws.section.setState(before),
    end: () => {
      const after = sectionNow(ws);
      if (after.planes !== before.planes)
        ws.history.getState().record({
          name,
          undo: () => ws.section.setState(moved(before)),
          redo: () => ws.section.setState(moved(after)),
        });
    },
  };
}

/** Puts the handle on a plane; until it is accepted Esc goes back to how the section was. */
export function setPlane(ws: Workspace, id: string): void {
  const { before } = ws.section.getState();
  ws.section.setState({ active: id, before: before ?? sectionNow(ws) });
}

/** What was changed since the handle was put on stays. @returns false when nothing was being set */
export function acceptSection(ws: Workspace): boolean {
  const setting = ws.section.getState().before !== null;
  ws.section.setState({ before: null, active: null });
  return setting;
}

/**
 * Back to how the section was before its planes were being set; that can be undone too. @returns false when
 * nothing was being set
 */
export function abandonSection(ws: Workspace): boolean {
  const { before } = ws.section.getState();
  if (!before) return false;
  recordSection(ws, 'abandon the section', before);
  acceptSection(ws);
  return true;
}

/** Adds planes and puts the handle on the first. */
export function addPlanes(
  ws: Workspace,
  places: readonly PlanePlace[],
  names: readonly string[],
  what: string,
  change: Partial<Section> = {},
): Inverse | void {
  const before = sectionNow(ws);
  const kept = change.planes ?? before.planes;
  if (kept.length + places.length > MAX_PLANES)
    return void ws.notify(
      `There can be ${MAX_PLANES} planes; delete ${kept.length + places.length - MAX_PLANES} first.`,
      {
        id: 'refusal',
      },
    );
  changeSettings(ws, { task: 'section' });
  const made = places.map((place, i): SectionPlane => ({
    ...place,
    id: uuid(),
    name: names[i],
    offset: 0,
    flipped: false,
    on: true,
  }));
  const inverse = changeSection(ws, what, { on: true, ...change, planes: [...kept, ...made] });
  ws.section.setState({ before: ws.section.getState().before ?? before, active: made[0].id });
  return inverse;
}

/** The next name of a plane. */
export const planeName = (ws: Workspace, how: string): string =>
  `Plane ${ws.section.getState().planes.length + 1} · ${how}`;

/** The plane that commands act on: the one with the handle, else the last. */
export function planeInHand(ws: Workspace): SectionPlane | undefined {
  const { planes, active } = ws.section.getState();
  return planes.find((p) => p.id === active) ?? planes.at(-1);
}

/** How far a plane can be moved and still cut what is shown, mm of its offset. */
export function rangeOf(ws: Workspace, plane: SectionPlane): [number, number] {
  const along = boxCorners(shownBox(ws)).map((c) => dot(subtract(c, plane.origin), plane.normal));
  return [Math.min(...along), Math.max(...along)];
}

/**
 * One step of the set size, of the figure that says where the plane is; quick steps one after
 * another are one step back.
 */
export function stepPlane(ws: Workspace, plane: SectionPlane, steps: number): void {
  const name = `step ${plane.name}`;
  const { done, undo } = ws.history.getState();
  const again = done.at(-1)?.name === name && Date.now() - ws.players.lastStep < STEP_PAUSE;
  ws.players.lastStep = Date.now();
  const system = ownSystem(ws);
  const offset = offsetAt(
    plane,
    planePosition(plane, system).at + steps * ws.section.getState().step,
    system,
  );
  if (again) undo();
  recordSection(ws, name, { planes: changePlane(ws, plane.id, { offset }) });
}

/** ms */
const STEP_PAUSE = 1000;
