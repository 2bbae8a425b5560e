import { project, viewBack } from '@bathyscope/core/camera';
import { planeThroughPoints } from '@bathyscope/core/references';
import {
  Box,
  Compass,
  Eye,
  FlipHorizontal2,
  Frame,
  PanelRight,
  PieChart,
  Play,
  Scan,
  Scissors,
  ScissorsLineDashed,
  SeparatorVertical,
  Slice,
  StepBack,
  StepForward,
  Telescope,
  Trash2,
  Triangle,
} from 'lucide-react';
import { referenceTo } from '../../workspace/measuring/references.ts';
import { fittedToShown } from '../../workspace/view/camera-targets.ts';
import {
  middle,
  AXES,
  axisVector,
  towardsEye,
  addPlane,
  isKind,
  lookAtPlane,
  askSlab,
  quarterCut,
  boxCut,
  askAngle,
  cutToFace,
} from './make-planes.ts';
import type { Command } from '../command.ts';
import { directionOf } from '../look/pick-directions.ts';
import { fromPoints, POINTS } from '../show/reference-commands.ts';
import { changePlane, changeSection, planeInHand, stepPlane } from './section-changes.ts';
import { startSweep, stopSweep } from './section-sweep.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { activePane } from '../../workspace/view/panes.ts';
import { sectionNow } from '../../workspace/cutting/section-now.ts';
import { patched } from '../../workspace/perform.ts';

/** Opens or closes the flat view. The scene changes its size: what was all in view stays so. */
function toggleFlat(ws: Workspace): void {
  const { camera, size } = activePane(ws);
  const fitted = fittedToShown(ws, camera);
  const middleOf = project(camera, size, fitted.target);
  const inView =
    camera.height > fitted.height * 0.9 &&
    Math.hypot(middleOf.x - size.width / 2, middleOf.y - size.height / 2) < size.height / 4;
  ws.flat.setState((s) => ({ open: !s.open, plane: planeInHand(ws)?.id ?? null }));
  if (inView)
    requestAnimationFrame(() =>
      requestAnimationFrame(() => ws.camera.getState().setCamera(fittedToShown(ws, activePane(ws).camera))),
    );
}

const noPlane = (ws: Workspace): string | null =>
  planeInHand(ws) ? null : 'There is no section plane; K makes one.';
const words = ['cut', 'clip', 'cross section', 'cutaway'];

export const SECTION_COMMANDS: Command[] = [
  ...AXES.map((axis, k): Command => ({
    id: `section-${axis.toLowerCase()}`,
    name: `Section along ${axis}`,
    group: 'Section',
    icon: Slice,
    searchWords: words,
    needs: 'nothing',
    run: (ws) => addPlane(ws, { origin: middle(ws), normal: towardsEye(ws, axisVector(k)) }, `along ${axis}`),
  })),
  {
    id: 'section-eye',
    name: 'Section facing the eye',
    group: 'Section',
    icon: Eye,
    searchWords: [...words, 'screen plane'],
    needs: 'nothing',
    run: (ws) =>
      addPlane(ws, { origin: middle(ws), normal: viewBack(activePane(ws).camera) }, 'facing the eye'),
  },
  {
    id: 'section-face',
    name: 'Section from a planar face',
    group: 'Section',
    icon: Slice,
    searchWords: [...words, 'clip at face'],
    needs: 'thing',
    menu: 'thing',
    fits: (item, ws) => isKind(ws, item, 'normal'),
    wants: 'Pick a planar face to cut at.',
    run: (ws, [item]) =>
      addPlane(
        ws,
        {
          origin: directionOf(ws, item)!.origin,
          normal: directionOf(ws, item)!.direction,
          from: referenceTo(ws, item),
        },
        'at a face',
      ),
  },
  {
    id: 'section-points',
    name: 'Section through three points',
    group: 'Section',
    icon: Triangle,
    searchWords: [...words, '3 points'],
    ...POINTS,
    count: 3,
    run: (ws, items) =>
      fromPoints(ws, items, ([a, b, c]) => {
        const plane = planeThroughPoints(a, b, c);
        return addPlane(ws, { ...plane, normal: towardsEye(ws, plane.normal) }, 'through three points');
      }),
  },
  {
    id: 'section-edge',
    name: 'Section across an edge',
    group: 'Section',
    icon: SeparatorVertical,
    searchWords: [...words, 'perpendicular to edge', 'normal to edge'],
    needs: 'thing',
    menu: 'thing',
    fits: (item, ws) => isKind(ws, item, 'along'),
    wants: 'Pick a straight edge where it shall be cut.',
    run: (ws, [item]) =>
      addPlane(
        ws,
        {
          origin: item.point ?? directionOf(ws, item)!.origin,
          normal: towardsEye(ws, directionOf(ws, item)!.direction),
          from: referenceTo(ws, item),
        },
        'across an edge',
      ),
  },
  {
    id: 'section-axis',
    name: 'Section through an axis …',
    group: 'Section',
    icon: Compass,
    searchWords: [...words, 'at an angle', 'through hole', 'cylinder axis'],
    needs: 'thing',
    menu: 'thing',
    fits: (item, ws) => isKind(ws, item, 'axis', 'along'),
    wants: 'Pick a hole, a turned face, a circle or a straight edge.',
    run: askAngle,
  },
  {
    id: 'section-slab',
    name: 'Section to a slab …',
    group: 'Section',
    icon: ScissorsLineDashed,
    searchWords: [...words, 'slice', 'thickness', 'two planes'],
    needs: 'nothing',
    run: askSlab,
  },
  {
    id: 'section-quarter',
    name: 'Quarter cut',
    group: 'Section',
    icon: PieChart,
    searchWords: [...words, 'half section', 'wedge'],
    needs: 'nothing',
    run: quarterCut,
  },
  {
    id: 'section-box',
    name: 'Section to a box',
    group: 'Section',
    icon: Box,
    searchWords: [...words, 'six planes', 'crop'],
    needs: 'nothing',
    run: boxCut,
  },
  {
    id: 'section-sight',
    name: 'Line of sight, by a cut',
    group: 'Section',
    icon: Telescope,
    searchWords: [...words, 'uncover', 'what hides the face', 'just before the face'],
    needs: 'thing',
    menu: 'thing',
    fits: (item) => item.kind === 'face' || item.kind === 'cap',
    wants: 'Pick the face that shall be seen.',
    run: (ws, [item]) => cutToFace(ws, item),
  },
  {
    id: 'section',
    name: 'Section on or off',
    group: 'Section',
    icon: Scissors,
    shortcut: 'K',
    searchWords: words,
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => {
      const { planes, on } = ws.section.getState();
      if (!planes.length)
        return addPlane(ws, { origin: middle(ws), normal: towardsEye(ws, [0, 1, 0]) }, 'along Y');
      return changeSection(ws, on ? 'section off' : 'section on', { on: !on });
    },
  },
  {
    id: 'section-pane',
    name: 'Section in this pane on or off',
    group: 'Panes',
    icon: Scissors,
    searchWords: [...words, 'uncut pane', 'compare'],
    needs: 'nothing',
    keepsMode: true,
    refusal: noPlane,
    run: (ws) => {
      const { id } = activePane(ws);
      const { uncutPanes } = ws.section.getState();
      return patched('section in this pane', ws.section, {
        uncutPanes: uncutPanes.includes(id) ? uncutPanes.filter((p) => p !== id) : [...uncutPanes, id],
      });
    },
  },
  {
    id: 'section-flip',
    name: 'Flip the section',
    group: 'Section',
    icon: FlipHorizontal2,
    searchWords: ['other side', 'reverse cut'],
    needs: 'nothing',
    keepsMode: true,
    refusal: noPlane,
    run: (ws) =>
      changeSection(ws, 'flip the section', {
        planes: changePlane(ws, planeInHand(ws)!.id, { flipped: !planeInHand(ws)!.flipped }),
      }),
  },
  {
    id: 'section-normal',
    name: 'Normal to the section',
    group: 'Section',
    icon: Scan,
    searchWords: ['square on', 'look at the cut', 'perpendicular'],
    needs: 'nothing',
    keepsMode: true,
    refusal: noPlane,
    run: (ws) => lookAtPlane(ws, planeInHand(ws)!),
  },
  {
    id: 'section-on',
    name: 'Step the section forward',
    group: 'Section',
    icon: StepForward,
    shortcut: 'Alt+Up',
    searchWords: ['move plane', 'nudge'],
    needs: 'nothing',
    keepsMode: true,
    refusal: noPlane,
    run: (ws) => stepPlane(ws, planeInHand(ws)!, 1),
  },
  {
    id: 'section-back',
    name: 'Step the section back',
    group: 'Section',
    icon: StepBack,
    shortcut: 'Alt+Down',
    searchWords: ['move plane', 'nudge'],
    needs: 'nothing',
    keepsMode: true,
    refusal: noPlane,
    run: (ws) => stepPlane(ws, planeInHand(ws)!, -1),
  },
  {
    id: 'section-sweep',
    name: 'Sweep the section',
    group: 'Section',
    icon: Play,
    searchWords: ['animate', 'play', 'move through'],
    needs: 'nothing',
    keepsMode: true,
    refusal: noPlane,
    run: (ws) => void (ws.sweep.getState().plane ? stopSweep(ws) : startSweep(ws, planeInHand(ws)!.id)),
  },
  {
    id: 'section-axes',
    name: 'Centroid and axes of the cut',
    group: 'Section',
    icon: Frame,
    searchWords: ['principal axes', 'centre of area'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => ws.section.setState((s) => ({ axes: !s.axes })),
  },
  {
    id: 'section-flat',
    name: 'Flat view of the cut',
    group: 'Section',
    icon: PanelRight,
    searchWords: ['2D', 'drawing of the section', 'export section', 'dxf', 'svg'],
    needs: 'nothing',
    keepsMode: true,
    refusal: (ws) => (ws.flat.getState().open ? null : noPlane(ws)),
    run: toggleFlat,
  },
  {
    id: 'section-remove',
    name: 'Remove the section',
    group: 'Section',
    icon: Trash2,
    searchWords: ['delete planes', 'no cut', 'delete section'],
    needs: 'nothing',
    refusal: noPlane,
    run: (ws) => {
      const count = sectionNow(ws).planes.length;
      ws.notify(
        `Removed ${count === 1 ? 'the plane' : `${count} planes`}; Ctrl+Z brings ${count === 1 ? 'it' : 'them'} back.`,
        {
          id: 'section',
        },
      );
      return changeSection(ws, 'remove the section', { planes: [] });
    },
  },
];
