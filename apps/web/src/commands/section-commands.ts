import { boxCentre, boxPlanes, boxSize, FRAMES, planeThroughAxis, planeThroughPoints, project, quarterPlanes, removedSide, slabPlanes, squareOn, viewBack, type Box3, type PlanePlace, type SectionPlane, type Vec3 } from '@bathyscope/core';
import { Box, Compass, Eye, FlipHorizontal2, Frame, PanelRight, PieChart, Play, Scan, Scissors, ScissorsLineDashed, SeparatorVertical, Slice, StepBack, StepForward, Telescope, Trash2, Triangle } from 'lucide-react';
import { toast } from 'sonner';
import { askStore } from '../stores/ask-store.ts';
import { flatStore } from '../stores/flat-store.ts';
import { activePane, cameraStore, modelFrame } from '../stores/camera-store.ts';
import { historyStore, type Inverse } from '../stores/history-store.ts';
import { sceneStore } from '../stores/scene-store.ts';
import { flushNow, sectionNow, sectionStore } from '../stores/section-store.ts';
import type { Picked } from '../stores/selection-store.ts';
import { fittedToShown } from './camera-targets.ts';
import type { Command } from './command.ts';
import { turnToOrientation } from './direction-commands.ts';
import { directionOf } from './pick-directions.ts';
import { fromPoints, POINTS } from './reference-commands.ts';
import { addPlanes, changePlane, changeSection, planeInHand, planeName, stepPlane } from './section-changes.ts';
import { startSweep, stopSweep, sweepStore } from './section-sweep.ts';

const shownBox = (): Box3 => sceneStore.getState().scene!.view.picking.shownBox();
const middle = (): Vec3 => boxCentre(shownBox());
const AXES = ['X', 'Y', 'Z'] as const;
const axisVector = (k: number): Vec3 => [0, 1, 2].map((i) => (i === k ? 1 : 0)) as unknown as Vec3;

/** The removed side faces the eye, so that the cut is seen at once. */
const towardsEye = (d: Vec3): Vec3 => {
  const back = viewBack(activePane().camera);
  return d[0] * back[0] + d[1] * back[1] + d[2] * back[2] < 0 ? [-d[0], -d[1], -d[2]] : d;
};

export const addPlane = (place: PlanePlace, how: string): Inverse | void => addPlanes([place], [planeName(how)], `section ${how}`);

const isKind = (item: Picked, ...kinds: string[]) => kinds.includes(directionOf(item)?.kind ?? '');

/** Looks square on to a cut, from the removed side. */
export const lookAtPlane = (plane: SectionPlane): void => turnToOrientation(squareOn(removedSide(plane), modelFrame()));

/** A share of the model that a new slab or box keeps, so that it cuts something. */
const SLAB_SHARE = 0.2;
const BOX_SHARE = 0.6;

function askSlab(): void {
  const box = shownBox();
  const back = viewBack(activePane().camera);
  // Around the plane in hand, else across the model axis that looks most at the eye.
  const inHand = planeInHand();
  const k = [0, 1, 2].reduce((best, i) => (Math.abs(back[i]) > Math.abs(back[best]) ? i : best), 0);
  const around: PlanePlace = inHand ? { origin: inHand.origin.map((x, i) => x + inHand.normal[i] * inHand.offset) as unknown as Vec3, normal: inHand.normal } : { origin: boxCentre(box), normal: towardsEye(axisVector(k)) };
  const thickness = Number((Math.max(...boxSize(box)) * SLAB_SHARE).toPrecision(2));
  askStore.getState().ask({
    title: 'Section to a slab', label: 'Thickness', unit: 'mm', value: thickness,
    run: (mm) => {
      const others = sectionNow().planes.filter((p) => p.id !== inHand?.id);
      const done = addPlanes(slabPlanes(around, mm), ['Slab · front', 'Slab · back'], `slab of ${mm} mm`, { combine: 'any', planes: others });
      if (done) historyStore.getState().record(done);
    },
  });
}

function quarterCut(): Inverse | void {
  const { right, front, up } = FRAMES[cameraStore.getState().upAxis];
  const back = viewBack(activePane().camera);
  // The two directions that look most at the eye; seen from an upper corner those in the ground plan.
  const seen = [right, front, up].map((d, i) => ({ d: towardsEye(d), weight: Math.abs(d[0] * back[0] + d[1] * back[1] + d[2] * back[2]) + (i < 2 ? 0.05 : 0) })).sort((a, b) => b.weight - a.weight);
  return addPlanes(quarterPlanes(middle(), seen[0].d, seen[1].d), ['Quarter · one', 'Quarter · other'], 'quarter cut', { combine: 'all', planes: [] });
}

function boxCut(): Inverse | void {
  const box = shownBox();
  const [c, s] = [boxCentre(box), boxSize(box)];
  const inner = { min: c.map((x, k) => x - (s[k] * BOX_SHARE) / 2), max: c.map((x, k) => x + (s[k] * BOX_SHARE) / 2) } as unknown as Box3;
  return addPlanes(boxPlanes(inner), AXES.flatMap((a) => [`Box · +${a}`, `Box · \u2212${a}`]), 'section to a box', { combine: 'any', planes: [] });
}

function askAngle([item]: Picked[]): void {
  const { origin, direction } = directionOf(item)!;
  const back = viewBack(activePane().camera);
  askStore.getState().ask({
    title: 'Section through an axis', label: 'Turned by', unit: '°', value: 0, signed: true,
    run: (degrees) => {
      const done = addPlane(planeThroughAxis(origin, direction, (degrees * Math.PI) / 180, back), `through an axis, ${degrees}°`);
      if (done) historyStore.getState().record(done);
    },
  });
}

/** mm in front of the picked face: nothing of it is cut, nothing before it stays. More where the model is so large that this would count as in the face. */
const BEFORE_FACE = 0.01;

/** A plane across the line of sight just in front of the picked point. */
function cutToFace(item: Picked): Inverse | void {
  const planar = directionOf(item);
  const point = item.point ?? planar?.origin ?? middle();
  const facing = planar?.kind === 'normal' ? towardsEye(planar.direction) : viewBack(activePane().camera);
  return addPlane({ origin: point.map((x, k) => x + facing[k] * Math.max(BEFORE_FACE, 4 * flushNow())) as unknown as Vec3, normal: facing }, 'line of sight');
}

/** Opens or closes the flat view. The scene changes its size: what was all in view stays so. */
function toggleFlat(): void {
  const { camera, size } = activePane();
  const fitted = fittedToShown(camera);
  const middleOf = project(camera, size, fitted.target);
  const inView = camera.height > fitted.height * 0.9 && Math.hypot(middleOf.x - size.width / 2, middleOf.y - size.height / 2) < size.height / 4;
  flatStore.setState((s) => ({ open: !s.open, plane: planeInHand()?.id ?? null }));
  if (inView) requestAnimationFrame(() => requestAnimationFrame(() => cameraStore.getState().setCamera(fittedToShown(activePane().camera))));
}

const noPlane = (): string | null => (planeInHand() ? null : 'There is no section plane; K makes one.');
const words = ['cut', 'clip', 'cross section', 'cutaway'];

export const SECTION_COMMANDS: Command[] = [
  ...AXES.map((axis, k): Command => ({
    id: `section-${axis.toLowerCase()}`, name: `Section along ${axis}`, group: 'Section', icon: Slice, searchWords: words, needs: 'nothing',
    run: () => addPlane({ origin: middle(), normal: towardsEye(axisVector(k)) }, `along ${axis}`),
  })),
  { id: 'section-eye', name: 'Section facing the eye', group: 'Section', icon: Eye, searchWords: [...words, 'screen plane'], needs: 'nothing', run: () => addPlane({ origin: middle(), normal: viewBack(activePane().camera) }, 'facing the eye') },
  {
    id: 'section-face', name: 'Section from a planar face', group: 'Section', icon: Slice, searchWords: [...words, 'clip at face'], needs: 'thing', menu: 'thing', fits: (item) => isKind(item, 'normal'), wants: 'Pick a planar face to cut at.',
    run: ([item]) => addPlane({ origin: directionOf(item)!.origin, normal: directionOf(item)!.direction }, 'at a face'),
  },
  { id: 'section-points', name: 'Section through three points', group: 'Section', icon: Triangle, searchWords: [...words, '3 points'], ...POINTS, count: 3, run: (items) => fromPoints(items, ([a, b, c]) => { const plane = planeThroughPoints(a, b, c); return addPlane({ ...plane, normal: towardsEye(plane.normal) }, 'through three points'); }) },
  {
    id: 'section-edge', name: 'Section across an edge', group: 'Section', icon: SeparatorVertical, searchWords: [...words, 'perpendicular to edge', 'normal to edge'], needs: 'thing', menu: 'thing', fits: (item) => isKind(item, 'along'), wants: 'Pick a straight edge where it shall be cut.',
    run: ([item]) => addPlane({ origin: item.point ?? directionOf(item)!.origin, normal: towardsEye(directionOf(item)!.direction) }, 'across an edge'),
  },
  { id: 'section-axis', name: 'Section through an axis …', group: 'Section', icon: Compass, searchWords: [...words, 'at an angle', 'through hole', 'cylinder axis'], needs: 'thing', menu: 'thing', fits: (item) => isKind(item, 'axis', 'along'), wants: 'Pick a hole, a turned face, a circle or a straight edge.', run: askAngle },
  { id: 'section-slab', name: 'Section to a slab …', group: 'Section', icon: ScissorsLineDashed, searchWords: [...words, 'slice', 'thickness', 'two planes'], needs: 'nothing', run: askSlab },
  { id: 'section-quarter', name: 'Quarter cut', group: 'Section', icon: PieChart, searchWords: [...words, 'half section', 'wedge'], needs: 'nothing', run: quarterCut },
  { id: 'section-box', name: 'Section to a box', group: 'Section', icon: Box, searchWords: [...words, 'six planes', 'crop'], needs: 'nothing', run: boxCut },
  {
    id: 'section-sight', name: 'Line of sight, by a cut', group: 'Section', icon: Telescope, searchWords: [...words, 'reveal face', 'uncover', 'just before the face'], needs: 'thing', menu: 'thing', fits: (item) => item.kind === 'face' || item.kind === 'cap', wants: 'Pick the face that shall be seen.', run: ([item]) => cutToFace(item),
  },
  {
    id: 'section', name: 'Section on or off', group: 'Section', icon: Scissors, shortcut: 'K', searchWords: words, needs: 'nothing', keepsMode: true,
    run: () => {
      const { planes, on } = sectionStore.getState();
      if (!planes.length) return addPlane({ origin: middle(), normal: towardsEye([0, 1, 0]) }, 'along Y');
      return changeSection(on ? 'section off' : 'section on', { on: !on });
    },
  },
  {
    id: 'section-pane', name: 'Section in this pane on or off', group: 'Panes', icon: Scissors, searchWords: [...words, 'uncut pane', 'compare'], needs: 'nothing', keepsMode: true, refusal: noPlane,
    run: () => {
      const { id } = activePane();
      sectionStore.setState((s) => ({ uncutPanes: s.uncutPanes.includes(id) ? s.uncutPanes.filter((p) => p !== id) : [...s.uncutPanes, id] }));
    },
  },
  { id: 'section-flip', name: 'Flip the section', group: 'Section', icon: FlipHorizontal2, searchWords: ['other side', 'reverse cut'], needs: 'nothing', keepsMode: true, refusal: noPlane, run: () => changeSection('flip the section', { planes: changePlane(planeInHand()!.id, { flipped: !planeInHand()!.flipped }) }) },
  { id: 'section-normal', name: 'Normal to the section', group: 'Section', icon: Scan, searchWords: ['square on', 'look at the cut', 'perpendicular'], needs: 'nothing', keepsMode: true, refusal: noPlane, run: () => lookAtPlane(planeInHand()!) },
  { id: 'section-on', name: 'Step the section forward', group: 'Section', icon: StepForward, shortcut: 'Alt+Up', searchWords: ['move plane', 'nudge'], needs: 'nothing', keepsMode: true, refusal: noPlane, run: () => stepPlane(planeInHand()!, 1) },
  { id: 'section-back', name: 'Step the section back', group: 'Section', icon: StepBack, shortcut: 'Alt+Down', searchWords: ['move plane', 'nudge'], needs: 'nothing', keepsMode: true, refusal: noPlane, run: () => stepPlane(planeInHand()!, -1) },
  { id: 'section-sweep', name: 'Sweep the section', group: 'Section', icon: Play, searchWords: ['animate', 'play', 'move through'], needs: 'nothing', keepsMode: true, refusal: noPlane, run: () => void (sweepStore.getState().plane ? stopSweep() : startSweep(planeInHand()!.id)) },
  { id: 'section-axes', name: 'Centroid and axes of the cut', group: 'Section', icon: Frame, searchWords: ['principal axes', 'centre of area'], needs: 'nothing', keepsMode: true, run: () => sectionStore.setState((s) => ({ axes: !s.axes })) },
  {
    id: 'section-flat', name: 'Flat view of the cut', group: 'Section', icon: PanelRight, searchWords: ['2D', 'drawing of the section', 'export section', 'dxf', 'svg'], needs: 'nothing', keepsMode: true, refusal: () => (flatStore.getState().open ? null : noPlane()),
    run: toggleFlat,
  },
  {
    id: 'section-remove', name: 'Remove the section', group: 'Section', icon: Trash2, searchWords: ['delete planes', 'no cut'], needs: 'nothing', refusal: noPlane,
    run: () => {
      const count = sectionNow().planes.length;
      toast(`Removed ${count === 1 ? 'the plane' : `${count} planes`}; Ctrl+Z brings ${count === 1 ? 'it' : 'them'} back.`, { id: 'section' });
      return changeSection('remove the section', { planes: [] });
    },
  },
];
