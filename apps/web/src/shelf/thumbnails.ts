import type { ModelListItem } from '@bathyscope/contracts';
import { DEFAULT_STYLE } from '@bathyscope/core';
import { api } from '../api/api.ts';
import { homeView } from '../commands/camera-targets.ts';
import { loadGeometry } from '../scene/load-geometry.ts';
import { SceneView } from '../scene/scene-view.ts';
import { mainPane } from '../stores/camera-store.ts';
import { modelStore } from '../stores/model-store.ts';
import { PLAIN_PREFERENCE, preferenceStore } from '../stores/preference-store.ts';
import { visibilityStore } from '../stores/visibility-store.ts';

const WIDTH = 480;
const HEIGHT = 300;

let busy = false;
let workspaceOpen = false;
const tried = new Set<string>();

/** While a workspace is open, or opening, the stores are its own. */
export const setWorkspaceOpen = (open: boolean): void => void (workspaceOpen = open);

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
      if (workspaceOpen) break;
      made = (await drawThumbnail(model.id)) || made;
    }
  } finally {
    busy = false;
  }
  return made;
}

const picture = (view: SceneView): Promise<Blob> =>
  view.picture({ camera: homeView({ camera: mainPane().camera, size: { width: WIDTH, height: HEIGHT } }), width: WIDTH, height: HEIGHT, background: null, style: DEFAULT_STYLE.style });

/** A model that is opened before the shelf drew its picture gets it here. */
export async function makeOwnThumbnail(view: SceneView): Promise<void> {
  const { detail } = modelStore.getState();
  if (!detail || detail.thumbnail || tried.has(detail.id)) return;
  tried.add(detail.id);
  await api.setThumbnail(detail.id, await picture(view)).catch(() => {});
}

async function drawThumbnail(id: string): Promise<boolean> {
  const canvas = document.createElement('canvas');
  Object.assign(canvas.style, { position: 'fixed', left: '-10000px', width: `${WIDTH}px`, height: `${HEIGHT}px` });
  document.body.append(canvas);
  const stop = new AbortController();
  try {
    const detail = await api.model(id);
    const parts = await loadGeometry(detail, () => {}, stop.signal);
    if (workspaceOpen) return false;
    preferenceStore.setState(PLAIN_PREFERENCE);
    modelStore.getState().begin(detail);
    modelStore.getState().finish(parts);
    visibilityStore.getState().set({});
    const view = new SceneView(canvas);
    // The pixels are taken at once; the stores are free again before anything is waited for.
    const png = picture(view);
    view.dispose();
    modelStore.getState().clear();
    await api.setThumbnail(id, await png);
    return true;
  } catch {
    return false;
  } finally {
    canvas.remove();
  }
}
