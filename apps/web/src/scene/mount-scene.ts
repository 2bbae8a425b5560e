import { createEventLine } from '../api/events.ts';
import { toast } from '../ui/notices.ts';
import { commandById } from '../commands/registry.ts';
import { runCommand } from '../commands/run-command.ts';
import { pickedPoint } from '../workspace/camera-targets.ts';
import { createWorkspace } from '../workspace/create-workspace.ts';
import { openModel } from '../workspace/open-model.ts';
import { serverSource } from '../workspace/server-source.ts';
import { nearestPoint, pickAt, pointUnder } from '../workspace/picking.ts';
import { shownBox, visiblePaths } from '../workspace/shown.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { Navigator } from './input/navigator.ts';
import { PointerControls } from './input/pointer-controls.ts';
import { pointerReports } from './input/pointer-reports.ts';
import { PivotMark } from './marks/pivot-mark.ts';
import { makeOwnThumbnail } from './pictures/thumbnails.ts';
import { SceneView } from './scene-view.ts';
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
      toast(why, { id: 'pivot', action: { label: 'Bring the pivot back', onClick: () => runCommand(ws, commandById('pivot-home')) } }),
  });
  const controls = new PointerControls(
    ws,
    canvas,
    navigator,
    pointerReports(ws, canvas, () => mark.flash()),
  );
  ws.scene.setState({ scene: view });
  const unwatch = sayLostContext(canvas, view);
  void makeOwnThumbnail(ws, view);
  (window as { bathyscope?: unknown }).bathyscope = lent(ws, view);
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

function sayLostContext(canvas: HTMLCanvasElement, view: SceneView): () => void {
  return watchContext(
    canvas,
    () =>
      toast.warning('The graphics card has dropped the picture. It is drawn again as soon as the card answers.', {
        id: 'context',
        duration: Infinity,
      }),
    () => {
      toast.dismiss('context');
      view.invalidate();
    },
  );
}

/** For tests and benchmarks: the same things the interface uses, nothing more. */
const lent = (ws: Workspace, view: SceneView) => ({
  view,
  picking: {
    pick: (x: number, y: number) => pickAt(ws, x, y),
    pointAt: (x: number, y: number) => pointUnder(ws, x, y),
    nearestPoint: (x: number, y: number) => nearestPoint(ws, x, y),
    shownPaths: () => visiblePaths(ws),
    shownBox: () => shownBox(ws),
  },
  run: (id: string) => runCommand(ws, commandById(id)),
  cameraStore: ws.camera,
  selectionStore: ws.selection,
  modelStore: ws.model,
  visibilityStore: ws.visibility,
  styleStore: ws.style,
  referenceStore: ws.reference,
  sectionStore: ws.section,
  cutStore: ws.cut,
  historyStore: ws.history,
  pointerStore: ws.pointer,
  trailStore: ws.trail,
  recordStore: ws.records,
  openBeside: (id: string, canvas: HTMLCanvasElement) => openBeside(ws, id, canvas),
});

/** A second model in the page, on a canvas of its own. */
async function openBeside(ws: Workspace, id: string, canvas: HTMLCanvasElement) {
  const other = createWorkspace(serverSource(id, createEventLine()), ws.profile);
  const close = openModel(other);
  await new Promise<void>((resolve) => {
    const off = other.model.subscribe(({ status }) => {
      if (status !== 'ready') return;
      off();
      resolve();
    });
  });
  const view = new SceneView(other, canvas);
  other.scene.setState({ scene: view });
  return {
    ...lent(other, view),
    close: () => {
      view.dispose();
      close();
    },
  };
}
