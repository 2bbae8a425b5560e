import { withProjection, zoomAbout, zoomAt, type ViewCamera } from '@bathyscope/core';
import {
  ArrowLeft, ArrowRight, Axis3d, Box, Crosshair, Dot, Expand, House, HousePlus, LocateFixed, Maximize, Move, Orbit, Rotate3d, Scan, ScanSearch, Shrink, SquareDashedMousePointer, Undo, ZoomIn, ZoomOut,
} from 'lucide-react';
import { toast } from 'sonner';
import { stopTurning, turnTo } from '../scene/camera-motion.ts';
import type { GestureAction } from '../scene/gestures.ts';
import { activePane, cameraStore } from '../stores/camera-store.ts';
import { modeStore } from '../stores/mode-store.ts';
import { pointerStore } from '../stores/pointer-store.ts';
import { preferenceStore } from '../stores/preference-store.ts';
import { sceneStore } from '../stores/scene-store.ts';
import { changeSettings, settingsStore } from '../stores/settings-store.ts';
import { stepTrail } from '../stores/trail-store.ts';
import { currentState } from '../workspace/view-states.ts';
import { fittedToPicked, fittedToShown, homeView } from './camera-targets.ts';
import type { Command } from './command.ts';

function zoomBy(factor: number): void {
  stopTurning();
  const { camera, size } = activePane();
  const { pivot } = cameraStore.getState();
  turnTo(camera.projection === 'perspective' ? zoomAbout(camera, pivot, factor) : zoomAt(camera, size, factor, size.width / 2, size.height / 2));
}

export const showView = (camera: ViewCamera): void => turnTo(camera);

/** Makes the left drag do something else until Esc or the next command. */
const leftDrag = (id: string, name: string, action: GestureAction, icon: Command['icon'], words: string[]): Command => ({
  id, name, group: 'Views', icon, searchWords: ['one button', 'laptop', ...words], needs: 'nothing',
  run: () => modeStore.setState({ leftDrag: { action, name } }),
});

function alongTrail(by: 1 | -1): void {
  const view = stepTrail(by);
  if (view) turnTo(view);
}

export function switchProjection(projection?: 'orthographic' | 'perspective'): void {
  const { camera } = activePane();
  const { pivot, setCamera } = cameraStore.getState();
  stopTurning();
  const wanted = projection ?? (camera.projection === 'orthographic' ? 'perspective' : 'orthographic');
  setCamera({ ...withProjection(camera, wanted, pivot), ...(wanted === 'perspective' && camera.projection === 'orthographic' && { lens: settingsStore.getState().lens }) });
}

export const VIEW_COMMANDS: Command[] = [
  {
    id: 'home', name: 'Home', group: 'Views', icon: House, shortcut: '0', alsoKeys: ['Home'], searchWords: ['default view', 'isometric', 'reset view', 'start'],
    needs: 'nothing', menu: 'space', keepsMode: true, run: () => showView(activePane().mode.kind === 'fixed' ? fittedToShown(activePane().camera) : homeView()),
  },
  {
    id: 'set-home', name: 'Make this view Home', group: 'Views', icon: HousePlus, searchWords: ['set default view', 'home view'], needs: 'nothing',
    run: () => {
      const before = preferenceStore.getState();
      const { camera, version } = currentState();
      const after = { ...before, home: { version, camera }, homeFramesVisible: false };
      preferenceStore.setState(after);
      toast('Home leads to this view now.');
      return { name: 'change of Home', undo: () => preferenceStore.setState(before), redo: () => preferenceStore.setState(after) };
    },
  },
  {
    id: 'fit', name: 'Fit all', group: 'Views', icon: Maximize, shortcut: 'F', searchWords: ['zoom extents', 'zoom all', 'refit', 'show everything', 'frame all'],
    needs: 'nothing', menu: 'both', keepsMode: true, run: () => showView(fittedToShown(activePane().camera)),
  },
  {
    id: 'fit-picked', name: 'Fit picked', group: 'Views', icon: Scan, shortcut: 'Shift+F', searchWords: ['zoom to selection', 'zoom to picked', 'frame selected'],
    needs: 'thing', menu: 'thing', run: (items) => showView(fittedToPicked(activePane().camera, items)),
  },
  {
    id: 'trail-back', name: 'Previous view', group: 'Views', icon: ArrowLeft, shortcut: 'Backspace', searchWords: ['view trail', 'back', 'last view'], needs: 'nothing', menu: 'space', keepsMode: true,
    run: () => alongTrail(-1),
  },
  {
    id: 'trail-forward', name: 'Next view', group: 'Views', icon: ArrowRight, shortcut: 'Shift+Backspace', searchWords: ['view trail', 'forward'], needs: 'nothing', keepsMode: true,
    run: () => alongTrail(1),
  },
  { id: 'zoom-in', name: 'Zoom in', group: 'Views', icon: ZoomIn, shortcut: '+', alsoKeys: ['='], searchWords: ['nearer', 'larger', 'magnify'], needs: 'nothing', keepsMode: true, run: () => zoomBy(1.4) },
  { id: 'zoom-out', name: 'Zoom out', group: 'Views', icon: ZoomOut, shortcut: '-', searchWords: ['further', 'smaller'], needs: 'nothing', keepsMode: true, run: () => zoomBy(1 / 1.4) },
  leftDrag('drag-window', 'Zoom window', 'window', ScanSearch, ['zoom to area', 'zoom box', 'rectangle']),
  leftDrag('drag-orbit', 'Orbit by left drag', 'orbit', Orbit, ['rotate', 'turn', 'tumble']),
  leftDrag('drag-pan', 'Pan by left drag', 'pan', Move, ['move', 'shift', 'scroll']),
  leftDrag('drag-zoom', 'Zoom by left drag', 'zoom', Expand, ['continuous zoom', 'dynamic zoom']),
  leftDrag('drag-roll', 'Roll by left drag', 'roll', Undo, ['twist', 'spin about the line of sight']),
  {
    id: 'pivot', name: 'Pivot at cursor', group: 'Views', icon: Crosshair, shortcut: '.', searchWords: ['centre of rotation', 'rotation centre', 'orbit point'], keepsMode: true,
    needs: 'nothing', refusal: () => (pointerStore.getState().point ? null : 'Point at the model, then press “.” to turn about that point.'),
    run: () => cameraStore.getState().setPivot(pointerStore.getState().point!),
  },
  {
    id: 'pivot-home', name: 'Pivot to the middle of the model', group: 'Views', icon: Dot, searchWords: ['reset pivot', 'centre of rotation', 'bring the pivot back'], needs: 'nothing', keepsMode: true,
    run: () => {
      const { scene } = sceneStore.getState();
      const box = scene?.view.picking.shownBox();
      if (box) cameraStore.getState().setPivot([0, 1, 2].map((k) => (box.min[k] + box.max[k]) / 2) as unknown as [number, number, number]);
    },
  },
  {
    id: 'centre', name: 'Centre on what is under the cursor', group: 'Views', icon: LocateFixed, shortcut: 'Space', searchWords: ['look at', 'centre here', 'pan to'], needs: 'nothing', keepsMode: true,
    refusal: () => (pointerStore.getState().point ? null : 'Point at the model, then press Space to bring that point to the middle.'),
    run: () => showView(sceneStore.getState().scene!.navigator.centre(pointerStore.getState().point!)),
  },
  {
    id: 'projection', name: 'Orthographic or perspective', group: 'Views', icon: Box, shortcut: 'O', searchWords: ['parallel', 'projection', 'ortho', 'camera'], needs: 'nothing', menu: 'space', keepsMode: true,
    run: () => switchProjection(),
  },
  {
    id: 'orbit-mode', name: 'Orbit: turntable or free', group: 'Views', icon: Rotate3d, searchWords: ['trackball', 'constrained orbit', 'keep upright', 'tumble'], needs: 'nothing', keepsMode: true,
    run: () => {
      const orbitMode = settingsStore.getState().orbitMode === 'turntable' ? 'free' : 'turntable';
      changeSettings({ orbitMode });
      toast(orbitMode === 'free' ? 'Free orbit: the model turns any way.' : 'Turntable orbit: the model stays upright.', { id: 'orbit-mode' });
    },
  },
  {
    id: 'up-axis', name: 'Up axis: Z or Y', group: 'Views', icon: Axis3d, searchWords: ['up direction', 'vertical axis', 'y up', 'z up'], needs: 'nothing',
    run: () => {
      const upAxis = preferenceStore.getState().upAxis === 'z' ? 'y' : 'z';
      setUpAxis(upAxis);
    },
  },
  {
    id: 'helm', name: 'Helm', group: 'Views', icon: Shrink, searchWords: ['six axis controller', 'six degrees of freedom', 'hand controller', 'joystick'], needs: 'nothing', keepsMode: true,
    run: () => changeSettings({ helm: !settingsStore.getState().helm }),
  },
  {
    id: 'pick-box', name: 'Box pick by left drag', group: 'Picking', icon: SquareDashedMousePointer, searchWords: ['window selection', 'rectangle', 'crossing'], needs: 'nothing',
    run: () => modeStore.setState({ leftDrag: { action: 'box', name: 'Box pick' } }),
  },
];

/** Sets which axis of the model points up, and goes home to see it so. */
export function setUpAxis(upAxis: 'y' | 'z'): void {
  preferenceStore.setState({ upAxis });
  cameraStore.getState().setUpAxis(upAxis);
  showView(homeView());
}
