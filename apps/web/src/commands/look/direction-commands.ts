import {
  behind,
  DIMETRIC,
  frameOrientation,
  neighbourPip,
  orbitFree,
  orbitTurntable,
  pan,
  PIPS,
  pipKind,
  pipName,
  pipOrientation,
  quarterTurn,
  roll,
  TRIMETRIC,
  VIEW_PAD,
  type Pip,
} from '@bathyscope/core/camera';
import type { Quaternion } from '@bathyscope/core/math';
import {
  Box,
  ChevronsUp,
  Compass,
  MoveHorizontal,
  RotateCcw,
  RotateCw,
  Rotate3d,
  Square,
} from 'lucide-react';
import { stopTurning, turnTo } from '../../workspace/view/turn-view.ts';
import { fittedToShown } from '../../workspace/view/camera-targets.ts';
import type { Command } from '../command.ts';
import { switchProjection } from './view-commands.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { activePane, modelFrame } from '../../workspace/view/panes.ts';

/** Turns to an orientation and fits what is shown. */
export const turnToOrientation = (ws: Workspace, orientation: Quaternion): void =>
  turnTo(ws, fittedToShown(ws, { ...activePane(ws).camera, orientation }));

/** A straight view in perspective is not true to scale: says so and offers the other projection. */
export function mentionPerspective(ws: Workspace): void {
  if (activePane(ws).camera.projection !== 'perspective') return;
  ws.notify('This straight view is in perspective, so sizes do not compare.', {
    id: 'perspective',
    action: { label: 'Orthographic', onClick: () => switchProjection(ws, 'orthographic') },
  });
}

/** Looks at the model from one of the 26 directions. */
export function lookFromPip(ws: Workspace, pip: Pip, frame = modelFrame(ws)): void {
  turnToOrientation(ws, pipOrientation(pip, frame));
  if (pipKind(pip) === 'face') mentionPerspective(ws);
}

const padKey = (pip: Pip): string | undefined =>
  Object.entries(VIEW_PAD).find(([, p]) => p.join() === pip.join())?.[0];

const ALSO: Record<string, string[]> = {
  front: ['front view', 'elevation', 'front elevation'],
  top: ['top view', 'plan', 'plan view'],
  right: ['right view', 'side view', 'end view'],
  left: ['left view', 'side view'],
  back: ['back view', 'rear'],
  bottom: ['bottom view', 'underside'],
};

const PIP_COMMANDS: Command[] = [...PIPS]
  .sort((a, b) => order(a) - order(b))
  .map((pip) => {
    const key = padKey(pip);
    const name = pipName(pip);
    return {
      id: `look-${name.replaceAll(' ', '-')}`,
      name: `Look from ${name}`,
      group: 'Directions',
      icon: pipKind(pip) === 'face' ? Square : Box,
      ...(key && { shortcut: `@${key}` }),
      searchWords: [
        ...(ALSO[name] ?? []),
        'standard view',
        ...(pipKind(pip) === 'corner' ? ['isometric'] : []),
      ],
      needs: 'nothing',
      keepsMode: true,
      run: (ws) => lookFromPip(ws, pip),
    };
  });

/** Faces first, then corners, then edges; those of the front before those of the back. */
function order(p: Pip): number {
  return { face: 0, corner: 100, edge: 200 }[pipKind(p)] - 10 * p[1] - p[2] + 0.1 * p[0];
}

const BEHIND_COMMANDS: Command[] = Object.entries(VIEW_PAD).map(([code, pip]) => ({
  id: `behind-${pipName(pip).replaceAll(' ', '-')}`,
  name: `From behind: ${pipName(pip)}`,
  group: 'Directions',
  icon: Compass,
  shortcut: `Shift+@${code}`,
  searchWords: ['rear', 'back side', 'opposite'],
  needs: 'nothing',
  keepsMode: true,
  run: (ws) => lookFromPip(ws, pip, behind(modelFrame(ws))),
}));

const AXONOMETRIC: Command[] = [
  {
    id: 'dimetric',
    name: 'Dimetric view',
    group: 'Directions',
    icon: Box,
    searchWords: ['axonometric', 'iso 5456-3', '7 42'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => turnToOrientation(ws, frameOrientation(DIMETRIC, modelFrame(ws))),
  },
  {
    id: 'trimetric',
    name: 'Trimetric view',
    group: 'Directions',
    icon: Box,
    searchWords: ['axonometric', '35 25'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => turnToOrientation(ws, frameOrientation(TRIMETRIC, modelFrame(ws))),
  },
];

const STEP = Math.PI / 18;
const FINE_STEP = Math.PI / 180;
const PAN_STEP = 60;
const ROLL_STEP = Math.PI / 12;

const ARROWS = [
  ['Left', -1, 0],
  ['Right', 1, 0],
  ['Up', 0, -1],
  ['Down', 0, 1],
] as const;

/** Turns the model by an angle the way an arrow points. */
function orbitBy(ws: Workspace, x: number, y: number, angle: number): void {
  stopTurning(ws);
  const { camera } = activePane(ws);
  const { pivot, setCamera } = ws.camera.getState();
  setCamera(
    ws.profile.getState().orbitMode === 'free'
      ? orbitFree(camera, pivot, x * angle, y * angle)
      : orbitTurntable(camera, pivot, x * angle, y * angle, modelFrame(ws).up),
  );
}

function rollBy(ws: Workspace, angle: number): void {
  turnTo(ws, roll(activePane(ws).camera, ws.camera.getState().pivot, angle));
}

function step(ws: Workspace, x: number, y: number): void {
  // The eye goes where the arrow points, as on the globe.
  const { orientation } = neighbourPip(activePane(ws).camera.orientation, modelFrame(ws), x, -y);
  turnToOrientation(ws, orientation);
}

function quarter(ws: Workspace, x: number, y: number): void {
  const { orientation } = activePane(ws).camera;
  turnToOrientation(
    ws,
    x ? quarterTurn(orientation, 'up', x > 0 ? -1 : 1) : quarterTurn(orientation, 'right', y > 0 ? -1 : 1),
  );
}

const turning = (
  id: string,
  name: string,
  shortcut: string,
  icon: Command['icon'],
  words: string[],
  run: (ws: Workspace) => void,
): Command => ({
  id,
  name,
  group: 'Turning',
  icon,
  shortcut,
  searchWords: words,
  needs: 'nothing',
  keepsMode: true,
  run,
});

const TURN_COMMANDS: Command[] = [
  ...ARROWS.flatMap(([arrow, x, y]) => {
    const way = arrow.toLowerCase();
    return [
      turning(`orbit-${way}`, `Orbit ${way} by 10°`, arrow, Rotate3d, ['rotate', 'turn'], (ws) =>
        orbitBy(ws, x, y, STEP),
      ),
      turning(
        `orbit-fine-${way}`,
        `Orbit ${way} by 1°`,
        `Shift+${arrow}`,
        Rotate3d,
        ['rotate', 'fine'],
        (ws) => orbitBy(ws, x, y, FINE_STEP),
      ),
      turning(
        `neighbour-${way}`,
        `Next direction ${way}`,
        `Ctrl+${arrow}`,
        Compass,
        ['neighbouring view', '45°', 'globe'],
        (ws) => step(ws, x, y),
      ),
      turning(
        `quarter-${way}`,
        `Turn ${way} by 90°`,
        `Ctrl+Shift+${arrow}`,
        ChevronsUp,
        ['quarter turn', 'rotate 90'],
        (ws) => quarter(ws, x, y),
      ),
      turning(`pan-${way}`, `Pan ${way}`, `T+${arrow}`, MoveHorizontal, ['move', 'shift', 'scroll'], (ws) =>
        ws.camera
          .getState()
          .setCamera(pan(activePane(ws).camera, activePane(ws).size, x * PAN_STEP, y * PAN_STEP)),
      ),
    ];
  }),
  turning('roll-left', 'Roll left by 15°', '[', RotateCcw, ['twist', 'tilt'], (ws) => rollBy(ws, ROLL_STEP)),
  turning('roll-right', 'Roll right by 15°', ']', RotateCw, ['twist', 'tilt'], (ws) =>
    rollBy(ws, -ROLL_STEP),
  ),
  turning('roll-left-90', 'Roll left by 90°', '{', RotateCcw, ['twist', 'quarter'], (ws) =>
    rollBy(ws, Math.PI / 2),
  ),
  turning('roll-right-90', 'Roll right by 90°', '}', RotateCw, ['twist', 'quarter'], (ws) =>
    rollBy(ws, -Math.PI / 2),
  ),
];

export const DIRECTION_COMMANDS: Command[] = [
  ...PIP_COMMANDS,
  ...BEHIND_COMMANDS,
  ...AXONOMETRIC,
  ...TURN_COMMANDS,
];
