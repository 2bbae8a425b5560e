import { createEventLine } from '../api/events.ts';
import { commandById } from '../commands/registry.ts';
import { runCommand } from '../commands/run-command.ts';
import { createWorkspace } from '../workspace/create-workspace.ts';
import { openModel } from '../workspace/open-model.ts';
import { nearestPoint, pickAt, pointUnder } from '../workspace/picking/picking.ts';
import { serverSource } from '../workspace/source/server-source.ts';
import { shownBox, visiblePaths } from '../workspace/shown/shown.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { SceneView } from './scene-view.ts';

/**
 * Gives tests and benchmarks in the browser a workspace and its view. Only the build that they run has this.
 */
export function exposeToTests(ws: Workspace, view: SceneView): void {
  (window as { bathyscope?: unknown }).bathyscope = exposed(ws, view);
}

const exposed = (ws: Workspace, view: SceneView) => ({
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
    ...exposed(other, view),
    close: () => {
      view.dispose();
      close();
    },
  };
}
