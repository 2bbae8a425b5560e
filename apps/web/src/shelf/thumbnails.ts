import type { ModelListItem } from '@bathyscope/contracts';
import { api } from '../api/api.ts';
import { homeView } from '../commands/view-commands.ts';
import { loadGeometry } from '../scene/load-geometry.ts';
import { SceneView } from '../scene/scene-view.ts';
import { cameraStore } from '../stores/camera-store.ts';
import { modelStore } from '../stores/model-store.ts';
import { visibilityStore } from '../stores/visibility-store.ts';

const WIDTH = 480;
const HEIGHT = 300;

let busy = false;
const tried = new Set<string>();

/** Draws the picture of every model that has none yet, one after another. @returns whether any was made */
export async function makeMissingThumbnails(models: readonly ModelListItem[]): Promise<boolean> {
  if (busy) return false;
  busy = true;
  let made = false;
  try {
    for (const model of models) {
      if (model.state !== 'ready' || model.thumbnail || tried.has(model.id)) continue;
      tried.add(model.id);
      // A workspace that was opened meanwhile needs the stores; it makes its own picture.
      if (modelStore.getState().status !== 'empty') break;
      made = (await drawThumbnail(model.id)) || made;
    }
  } finally {
    busy = false;
  }
  return made;
}

async function drawThumbnail(id: string): Promise<boolean> {
  const canvas = document.createElement('canvas');
  Object.assign(canvas.style, { position: 'fixed', left: '-10000px', width: `${WIDTH}px`, height: `${HEIGHT}px` });
  document.body.append(canvas);
  const stop = new AbortController();
  try {
    const detail = await api.model(id);
    const parts = await loadGeometry(detail, () => {}, stop.signal);
    if (modelStore.getState().status !== 'empty') return false;
    modelStore.getState().begin(detail);
    modelStore.getState().finish(parts);
    visibilityStore.getState().set({});
    const view = new SceneView(canvas);
    cameraStore.getState().setCamera(homeView());
    const png = await view.picture(WIDTH, HEIGHT);
    view.dispose();
    modelStore.getState().clear();
    await api.setThumbnail(id, png);
    return true;
  } catch {
    return false;
  } finally {
    canvas.remove();
    if (location.pathname === '/') modelStore.getState().clear();
  }
}
