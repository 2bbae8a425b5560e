import { boxCentre, directionOfPick, MAX_PLANES, removedSide, squareOn, viewBack, type SectionPlane, type Vec3 } from '@bathyscope/core';
import { Eye, FlipHorizontal2, Scissors, Slice } from 'lucide-react';
import { toast } from 'sonner';
import { activePane, modelFrame } from '../stores/camera-store.ts';
import { historyStore, type Inverse } from '../stores/history-store.ts';
import { sceneStore } from '../stores/scene-store.ts';
import { sectionStore } from '../stores/section-store.ts';
import { changeSettings } from '../stores/settings-store.ts';
import type { Picked } from '../stores/selection-store.ts';
import { geometryOf } from './camera-targets.ts';
import type { Command } from './command.ts';
import { turnToOrientation } from './direction-commands.ts';

/** Changes the section so that it can be undone. */
export function changeSection(name: string, planes: SectionPlane[], on = true): Inverse {
  const before = sectionStore.getState();
  const after = { planes, on };
  sectionStore.setState(after);
  return { name, undo: () => sectionStore.setState(before), redo: () => sectionStore.setState(after) };
}

export const recordSection = (name: string, planes: SectionPlane[], on?: boolean): void => historyStore.getState().record(changeSection(name, planes, on));

export function changePlane(id: string, values: Partial<SectionPlane>): SectionPlane[] {
  return sectionStore.getState().planes.map((p) => (p.id === id ? { ...p, ...values } : p));
}

function addPlane(origin: Vec3, normal: Vec3, how: string): Inverse | void {
  const { planes } = sectionStore.getState();
  if (planes.length >= MAX_PLANES) return void toast(`There are ${MAX_PLANES} planes already; delete one first.`);
  changeSettings({ task: 'section' });
  const n = planes.length + 1;
  return changeSection(`section ${how}`, [...planes, { id: crypto.randomUUID(), name: `Plane ${n} · ${how}`, origin, normal, offset: 0, flipped: false, on: true }]);
}

const middle = (): Vec3 => boxCentre(sceneStore.getState().scene!.view.picking.shownBox());

/** The removed side faces the eye, so that the cut is seen at once. */
const towardsEye = (d: Vec3): Vec3 => {
  const back = viewBack(activePane().camera);
  return d[0] * back[0] + d[1] * back[1] + d[2] * back[2] < 0 ? [-d[0], -d[1], -d[2]] : d;
};

const planar = (item: Picked) => {
  const placed = item.kind === 'face' ? geometryOf(item) : undefined;
  const found = placed && directionOfPick({ kind: item.kind, index: item.index, point: item.point, ...placed });
  return found?.kind === 'normal' ? found : null;
};

/** Looks square on to a cut, from the removed side. */
export const lookAtPlane = (plane: SectionPlane): void => turnToOrientation(squareOn(removedSide(plane), modelFrame()));

export const SECTION_COMMANDS: Command[] = [
  ...(['X', 'Y', 'Z'] as const).map((axis, k): Command => ({
    id: `section-${axis.toLowerCase()}`, name: `Section along ${axis}`, group: 'Section', icon: Slice, searchWords: ['cut', 'clip', 'cross section', 'cutaway'], needs: 'nothing',
    run: () => addPlane(middle(), towardsEye([0, 1, 2].map((i) => (i === k ? 1 : 0)) as unknown as Vec3), `along ${axis}`),
  })),
  { id: 'section-eye', name: 'Section facing the eye', group: 'Section', icon: Eye, searchWords: ['cut', 'screen plane'], needs: 'nothing', run: () => addPlane(middle(), viewBack(activePane().camera), 'facing the eye') },
  {
    id: 'section-face', name: 'Section from a planar face', group: 'Section', icon: Slice, searchWords: ['cut', 'clip at face'], needs: 'thing', menu: 'thing', fits: (item) => planar(item) !== null, wants: 'Pick a planar face to cut at.',
    run: ([item]) => addPlane(planar(item)!.origin, planar(item)!.direction, 'at a face'),
  },
  {
    id: 'section', name: 'Section on or off', group: 'Section', icon: Scissors, shortcut: 'K', searchWords: ['cut', 'clip', 'cutaway'], needs: 'nothing', keepsMode: true,
    run: () => {
      const { planes, on } = sectionStore.getState();
      if (!planes.length) return addPlane(middle(), towardsEye([0, 1, 0]), 'along Y');
      return changeSection(on ? 'section off' : 'section on', planes, !on);
    },
  },
  {
    id: 'section-flip', name: 'Flip the section', group: 'Section', icon: FlipHorizontal2, searchWords: ['other side', 'reverse cut'], needs: 'nothing', refusal: () => (sectionStore.getState().planes.length ? null : 'There is no section to flip; K makes one.'),
    run: () => changeSection('flip the section', sectionStore.getState().planes.map((p, i, all) => (i === all.length - 1 ? { ...p, flipped: !p.flipped } : p))),
  },
];
