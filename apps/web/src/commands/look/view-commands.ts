import { home, upAxis } from '@bathyscope/contracts/records';
import { given, putRecords } from '../../workspace/keeping/records.ts';
import { isBeyond, withProjection, zoomAbout, zoomAt, type ViewCamera } from '@bathyscope/core/camera';
import { boxCentre } from '@bathyscope/core/math';
import {
  ArrowLeft,
  ArrowRight,
  Axis3d,
  Box,
  Crosshair,
  Dot,
  Expand,
  House,
  HousePlus,
  LocateFixed,
  Maximize,
  Move,
  Orbit,
  Rotate3d,
  Scan,
  ScanSearch,
  Shrink,
  SquareDashedMousePointer,
  Undo,
  ZoomIn,
  ZoomOut,
} from 'lucide-react';
import { shownBox } from '../../workspace/shown/shown.ts';
import { stopTurning, turnTo } from '../../workspace/view/turn-view.ts';
import type { Inverse } from '../../state/history-store.ts';
import type { GestureAction } from '../../state/gestures.ts';
import { currentState } from '../../workspace/keeping/view-states.ts';
import {
  centredOn,
  fittedToPicked,
  fittedToShown,
  homeView,
  upAxisOf,
} from '../../workspace/view/camera-targets.ts';
import type { Command } from '../command.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { activePane, limitsOf } from '../../workspace/view/panes.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';
import { stepTrail } from '../../workspace/view/trail.ts';
import { record } from '../../workspace/perform.ts';

function zoomBy(ws: Workspace, factor: number): void {
  stopTurning(ws);
  const { camera, size } = activePane(ws);
  const { pivot } = ws.camera.getState();
  if (isBeyond(camera.height, factor, limitsOf(ws))) return;
  turnTo(
    ws,
    camera.projection === 'perspective'
      ? zoomAbout(camera, pivot, factor)
      : zoomAt(camera, size, factor, size.width / 2, size.height / 2),
  );
}

export const showView = (ws: Workspace, camera: ViewCamera): void => turnTo(ws, camera);

/** Makes the left drag do something else until Esc or the next command. */
const leftDrag = (
  id: string,
  name: string,
  action: GestureAction,
  icon: Command['icon'],
  words: string[],
): Command => ({
  id,
  name,
  group: 'Views',
  icon,
  searchWords: ['one button', 'laptop', ...words],
  needs: 'nothing',
  run: (ws) => ws.mode.setState({ leftDrag: { action, name } }),
});

function alongTrail(ws: Workspace, by: 1 | -1): void {
  const view = stepTrail(ws, by);
  if (view) turnTo(ws, view);
}

export function switchProjection(ws: Workspace, projection?: 'orthographic' | 'perspective'): void {
  const { camera } = activePane(ws);
  const { pivot, setCamera } = ws.camera.getState();
  stopTurning(ws);
  const wanted = projection ?? (camera.projection === 'orthographic' ? 'perspective' : 'orthographic');
  setCamera({
    ...withProjection(camera, wanted, pivot),
    ...(wanted === 'perspective' &&
      camera.projection === 'orthographic' && { lens: ws.profile.getState().lens }),
  });
}

export const VIEW_COMMANDS: Command[] = [
  {
    id: 'home',
    name: 'Home',
    group: 'Views',
    icon: House,
    shortcut: '0',
    alsoKeys: ['Home'],
    searchWords: ['default view', 'isometric', 'reset view', 'start'],
    needs: 'nothing',
    menu: 'space',
    keepsMode: true,
    run: (ws) =>
      showView(
        ws,
        activePane(ws).mode.kind === 'fixed' ? fittedToShown(ws, activePane(ws).camera) : homeView(ws),
      ),
  },
  {
    id: 'set-home',
    name: 'Make this view Home',
    group: 'Views',
    icon: HousePlus,
    searchWords: ['set default view', 'home view'],
    needs: 'nothing',
    run: (ws) => {
      const { camera, version } = currentState(ws);
      ws.notify('Home leads to this view now.');
      return putRecords(ws, 'change of Home', [
        given(ws, home, { view: { version, camera }, framesVisible: false }),
      ]);
    },
  },
  {
    id: 'fit',
    name: 'Fit all',
    group: 'Views',
    icon: Maximize,
    shortcut: 'F',
    searchWords: ['zoom extents', 'zoom all', 'whole model', 'frame all'],
    needs: 'nothing',
    menu: 'both',
    keepsMode: true,
    run: (ws) => showView(ws, fittedToShown(ws, activePane(ws).camera)),
  },
  {
    id: 'fit-picked',
    name: 'Fit picked',
    group: 'Views',
    icon: Scan,
    shortcut: 'Shift+F',
    searchWords: ['zoom to selection', 'zoom to picked', 'look closer'],
    needs: 'thing',
    menu: 'thing',
    run: (ws, items) => showView(ws, fittedToPicked(ws, activePane(ws).camera, items)),
  },
  {
    id: 'trail-back',
    name: 'Previous view',
    group: 'Views',
    icon: ArrowLeft,
    shortcut: 'Backspace',
    searchWords: ['view trail', 'back', 'last view'],
    needs: 'nothing',
    menu: 'space',
    keepsMode: true,
    run: (ws) => alongTrail(ws, -1),
  },
  {
    id: 'trail-forward',
    name: 'Next view',
    group: 'Views',
    icon: ArrowRight,
    shortcut: 'Shift+Backspace',
    searchWords: ['view trail', 'forward'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => alongTrail(ws, 1),
  },
  {
    id: 'zoom-in',
    name: 'Zoom in',
    group: 'Views',
    icon: ZoomIn,
    shortcut: '+',
    alsoKeys: ['='],
    searchWords: ['nearer', 'larger', 'magnify'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => zoomBy(ws, 1.4),
  },
  {
    id: 'zoom-out',
    name: 'Zoom out',
    group: 'Views',
    icon: ZoomOut,
    shortcut: '-',
    searchWords: ['further'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => zoomBy(ws, 1 / 1.4),
  },
  leftDrag('drag-window', 'Zoom window', 'window', ScanSearch, ['zoom to area', 'zoom box', 'rectangle']),
  leftDrag('drag-orbit', 'Orbit by left drag', 'orbit', Orbit, ['rotate', 'turn', 'tumble']),
  leftDrag('drag-pan', 'Pan by left drag', 'pan', Move, ['move', 'shift', 'scroll']),
  leftDrag('drag-zoom', 'Zoom by left drag', 'zoom', Expand, ['continuous zoom', 'magnify']),
  leftDrag('drag-roll', 'Roll by left drag', 'roll', Undo, ['twist', 'spin about the line of sight']),
  {
    id: 'pivot',
    name: 'Pivot at cursor',
    group: 'Views',
    icon: Crosshair,
    shortcut: '.',
    searchWords: ['centre of rotation', 'rotation centre', 'orbit point'],
    keepsMode: true,
    needs: 'nothing',
    refusal: (ws) =>
      ws.pointer.getState().point ? null : 'Point at the model, then press “.” to turn about that point.',
    run: (ws) => ws.camera.getState().setPivot(ws.pointer.getState().point!),
  },
  {
    id: 'pivot-home',
    name: 'Pivot to the middle of the model',
    group: 'Views',
    icon: Dot,
    searchWords: ['reset pivot', 'centre of rotation', 'bring the pivot back'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => {
      ws.camera.getState().setPivot(boxCentre(shownBox(ws)));
    },
  },
  {
    id: 'centre',
    name: 'Centre on what is under the cursor',
    group: 'Views',
    icon: LocateFixed,
    shortcut: 'Space',
    searchWords: ['look at', 'centre here', 'pan to'],
    needs: 'nothing',
    keepsMode: true,
    refusal: (ws) =>
      ws.pointer.getState().point
        ? null
        : 'Point at the model, then press Space to bring that point to the middle.',
    run: (ws) => showView(ws, centredOn(ws, ws.pointer.getState().point!)),
  },
  {
    id: 'projection',
    name: 'Orthographic or perspective',
    group: 'Views',
    icon: Box,
    shortcut: 'O',
    searchWords: ['parallel', 'projection', 'ortho', 'camera', 'lens', 'field of view', 'foreshortening'],
    needs: 'nothing',
    menu: 'space',
    keepsMode: true,
    run: (ws) => switchProjection(ws),
  },
  {
    id: 'orbit-mode',
    name: 'Orbit: turntable or free',
    group: 'Views',
    icon: Rotate3d,
    searchWords: ['trackball', 'constrained orbit', 'keep upright', 'tumble'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => {
      const orbitMode = ws.profile.getState().orbitMode === 'turntable' ? 'free' : 'turntable';
      changeSettings(ws, { orbitMode });
      ws.notify(
        orbitMode === 'free'
          ? 'Free orbit: the model turns any way.'
          : 'Turntable orbit: the model stays upright.',
        {
          id: 'orbit-mode',
        },
      );
    },
  },
  {
    id: 'up-axis',
    name: 'Up axis: Z or Y',
    group: 'Views',
    icon: Axis3d,
    searchWords: ['up direction', 'vertical axis', 'y up', 'z up'],
    needs: 'nothing',
    run: (ws) => {
      setUpAxis(ws, ws.camera.getState().upAxis === 'z' ? 'y' : 'z');
    },
  },
  {
    id: 'helm',
    name: 'Helm',
    group: 'Views',
    icon: Shrink,
    searchWords: ['six axis controller', 'six degrees of freedom', 'hand controller', 'joystick'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => changeSettings(ws, { helm: !ws.profile.getState().helm }),
  },
  {
    id: 'pick-box',
    name: 'Box pick by left drag',
    group: 'Picking',
    icon: SquareDashedMousePointer,
    searchWords: ['window selection', 'rectangle', 'crossing'],
    needs: 'nothing',
    run: (ws) => ws.mode.setState({ leftDrag: { action: 'box', name: 'Box pick' } }),
  },
];

/** Sets which axis of the model points up, and goes home to see it so. */
export function setUpAxis(ws: Workspace, axis: 'y' | 'z'): void {
  const inverse = putRecords(ws, `${axis.toUpperCase()} up`, [given(ws, upAxis, { axis })]);
  if (!inverse) return;
  const follow = () => {
    ws.camera.getState().setUpAxis(upAxisOf(ws));
    showView(ws, homeView(ws));
  };
  const andFollow = (change: Inverse['undo']) => () => {
    const changed = change();
    follow();
    return changed;
  };
  follow();
  record(ws, { ...inverse, undo: andFollow(inverse.undo), redo: andFollow(inverse.redo) });
}
