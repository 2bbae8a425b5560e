import { boxCorners, dot, MAX_PLANES, subtract, type PlanePlace, type Section, type SectionPlane } from '@bathyscope/core';
import { toast } from 'sonner';
import { historyStore, type Inverse } from '../stores/history-store.ts';
import { sceneStore } from '../stores/scene-store.ts';
import { sectionNow, sectionStore } from '../stores/section-store.ts';
import { changeSettings } from '../stores/settings-store.ts';

/** Changes the section so that it can be undone. */
export function changeSection(name: string, change: Partial<Section>): Inverse {
  const before = sectionNow();
  const after = { ...before, ...change };
  sectionStore.setState(after);
  return { name, undo: () => sectionStore.setState(before), redo: () => sectionStore.setState(after) };
}

export const recordSection = (name: string, change: Partial<Section>): void => historyStore.getState().record(changeSection(name, change));

export function changePlane(id: string, values: Partial<SectionPlane>): SectionPlane[] {
  return sectionStore.getState().planes.map((p) => (p.id === id ? { ...p, ...values } : p));
}

/** A change by dragging: seen at once, one step back for all of it. */
export function startDrag(name: string): { move: (planes: SectionPlane[]) => void; end: () => void; abandon: () => void } {
  const before = sectionNow();
  return {
    move: (planes) => sectionStore.setState({ planes, on: true }),
    abandon: () => sectionStore.setState(before),
    end: () => {
      const after = sectionNow();
      if (after.planes !== before.planes) historyStore.getState().record({ name, undo: () => sectionStore.setState(before), redo: () => sectionStore.setState(after) });
    },
  };
}

/** Puts the handle on a plane; until it is accepted Esc goes back to how the section was. */
export function setPlane(id: string): void {
  const { before } = sectionStore.getState();
  sectionStore.setState({ active: id, before: before ?? sectionNow() });
}

/** What was changed since the handle was put on stays. @returns false when nothing was being set */
export function acceptSection(): boolean {
  const setting = sectionStore.getState().before !== null;
  sectionStore.setState({ before: null, active: null });
  return setting;
}

/** Back to how the section was before its planes were being set; that can be undone too. @returns false when nothing was being set */
export function abandonSection(): boolean {
  const { before } = sectionStore.getState();
  if (!before) return false;
  recordSection('abandon the section', before);
  acceptSection();
  return true;
}

/** Adds planes and puts the handle on the first. */
export function addPlanes(places: readonly PlanePlace[], names: readonly string[], what: string, change: Partial<Section> = {}): Inverse | void {
  const before = sectionNow();
  const kept = change.planes ?? before.planes;
  if (kept.length + places.length > MAX_PLANES) return void toast(`There can be ${MAX_PLANES} planes; delete ${kept.length + places.length - MAX_PLANES} first.`, { id: 'refusal' });
  changeSettings({ task: 'section' });
  const made = places.map((place, i): SectionPlane => ({ ...place, id: crypto.randomUUID(), name: names[i], offset: 0, flipped: false, on: true }));
  const inverse = changeSection(what, { on: true, ...change, planes: [...kept, ...made] });
  sectionStore.setState({ before: sectionStore.getState().before ?? before, active: made[0].id });
  return inverse;
}

/** The next name of a plane. */
export const planeName = (how: string): string => `Plane ${sectionStore.getState().planes.length + 1} · ${how}`;

/** The plane that commands act on: the one with the handle, else the last. */
export function planeInHand(): SectionPlane | undefined {
  const { planes, active } = sectionStore.getState();
  return planes.find((p) => p.id === active) ?? planes.at(-1);
}

/** How far a plane can be moved and still cut what is shown, mm of its offset. */
export function rangeOf(plane: SectionPlane): [number, number] {
  const box = sceneStore.getState().scene?.view.picking.shownBox();
  if (!box) return [-100, 100];
  const along = boxCorners(box).map((c) => dot(subtract(c, plane.origin), plane.normal));
  return [Math.min(...along), Math.max(...along)];
}

/** One step of the set size; quick steps one after another are one step back. */
export function stepPlane(plane: SectionPlane, steps: number): void {
  const name = `step ${plane.name}`;
  const { done, undo } = historyStore.getState();
  const again = done.at(-1)?.name === name && Date.now() - lastStep < STEP_PAUSE;
  lastStep = Date.now();
  const offset = plane.offset + steps * sectionStore.getState().step;
  if (again) undo();
  recordSection(name, { planes: changePlane(plane.id, { offset }) });
}

/** ms */
const STEP_PAUSE = 1000;
let lastStep = 0;
