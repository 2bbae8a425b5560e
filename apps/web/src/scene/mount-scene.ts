import { commandById } from '../commands/registry.ts';
import { runCommand } from '../commands/run-command.ts';
import { pickedPoint } from '../workspace/view/camera-targets.ts';
import { nearestPoint, pointUnder } from '../workspace/picking/picking.ts';
import { shownBox } from '../workspace/shown/shown.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { Navigator } from './input/navigator.ts';
import { PointerControls } from './input/pointer-controls.ts';
import { pointerReports } from './input/pointer-reports.ts';
import { PivotMark } from './marks/pivot-mark.ts';
import { makeOwnThumbnail } from './pictures/thumbnails.ts';
import { SceneView } from './scene-view.ts';
import { exposeToTests } from './test-hooks.ts';
import { watchContext } from './watch-context.ts';

/** Draws a workspace on a canvas and follows the pointer there. @returns what ends it */
export function mountScene(ws: Workspace, canvas: HTMLCanvasElement): () => void {
  const view = new SceneView(ws, canvas);
  const mark = new PivotMark(ws, (visible) => view.showPivot(visible));
  const navigator = new Navigator(ws, {
    pointAt: (x, y) => pointUnder(ws, x, y),
    nearestPoint: (x, y) => nearestPoint(ws, x, y),
    pickedPoint: () => pickedPoint(ws),
    shownBox: () => shownBox(ws),
    showPivot: (held) => mark.hold(held),
    offerPivot: (why) =>
      ws.notify(why, {
        id: 'pivot',
        action: { label: 'Bring the pivot back', onClick: () => runCommand(ws, commandById('pivot-home')) },
      }),
  });
  const controls = new PointerControls(
    ws,
    canvas,
    navigator,
    pointerReports(ws, canvas, () => mark.flash()),
  );
  ws.scene.setState({ scene: view });
  const unwatch = sayLostContext(ws, canvas, view);
  void makeOwnThumbnail(ws, view);
  if (import.meta.env.MODE === 'test') exposeToTests(ws, view);
  return () => {
    unwatch();
    controls.dispose();
    mark.dispose();
    ws.scene.setState({ scene: null });
    view.dispose();
    ws.pointer.setState({ point: null, at: null });
    ws.selection.getState().setHover(null);
  };
}

function sayLostContext(ws: Workspace, canvas: HTMLCanvasElement, view: SceneView): () => void {
  return watchContext(
    canvas,
    () =>
      ws.notify.warning(
        'The graphics card has dropped the picture. It is drawn again as soon as the card answers.',
        {
          id: 'context',
          duration: Infinity,
        },
      ),
    () => {
      ws.notify.dismiss('context');
      view.invalidate();
    },
  );
}
