import { useEffect } from 'react';
import { boxCentre, migrateViewState, type ViewState } from '@bathyscope/core';
import { api } from '../api/api.ts';
import { homeView } from '../commands/view-commands.ts';
import { waitingStore } from '../commands/run-command.ts';
import { loadGeometry } from '../scene/load-geometry.ts';
import { modelBox } from '../scene/scene-view.ts';
import { cameraStore, mainPane } from '../stores/camera-store.ts';
import { historyStore } from '../stores/history-store.ts';
import { modelStore } from '../stores/model-store.ts';
import { selectionStore } from '../stores/selection-store.ts';
import { visibilityStore } from '../stores/visibility-store.ts';

/** ms without a change after which the state of the model is kept. */
const KEEP_AFTER = 800;

/** Loads a model into the stores, brings back its last state, and keeps it from then on. */
export function useModel(id: string): void {
  useEffect(() => {
    const stop = new AbortController();
    let forgetKeeping = () => {};
    selectionStore.setState({ hover: null, picked: [] });
    historyStore.getState().clear();
    waitingStore.setState({ waiting: null, repeating: false });
    void load(id, stop.signal).then(
      () => {
        if (!stop.signal.aborted) forgetKeeping = keepState(id);
      },
      (error: Error) => stop.signal.aborted || modelStore.getState().fail(error.message),
    );
    return () => {
      stop.abort();
      forgetKeeping();
      modelStore.getState().clear();
    };
  }, [id]);
}

async function load(id: string, signal: AbortSignal): Promise<void> {
  modelStore.getState().clear();
  const [detail, last] = await Promise.all([api.model(id), api.viewState(id)]);
  signal.throwIfAborted();
  if (detail.state !== 'ready') throw new Error(`“${detail.name}” is still being converted. Come back to it from the shelf when it is done.`);
  modelStore.getState().begin(detail);
  const parts = await loadGeometry(detail, modelStore.getState().setProgress, signal);
  // The state first, so that the first frame is already the right one.
  modelStore.setState({ parts });
  restore(last.document);
  modelStore.getState().finish(parts);
}

function restore(document: unknown): void {
  const { setPivot, setCamera } = cameraStore.getState();
  setPivot(boxCentre(modelBox()));
  visibilityStore.getState().set({});
  let state: ViewState | null = null;
  try {
    state = document ? migrateViewState(document) : null;
  } catch {
    // Written by a newer version: the model opens at home, nothing is lost.
  }
  if (state?.visibility) visibilityStore.getState().set(state.visibility);
  if (!state?.camera) return setCamera(homeView());
  const { target, orientation, height, pivot } = state.camera;
  setCamera({ target, orientation, height });
  if (pivot) setPivot(pivot);
}

/** The state as a view-state document. */
function currentState(): ViewState {
  return {
    version: 1,
    camera: { projection: 'orthographic', ...mainPane().camera, pivot: cameraStore.getState().pivot },
    visibility: { ...visibilityStore.getState().states },
    style: { preset: 'work' },
  };
}

function keepState(id: string): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const keep = () => {
    clearTimeout(timer);
    timer = undefined;
    void api.saveViewState(id, currentState()).catch(() => {});
  };
  const later = () => {
    clearTimeout(timer);
    timer = setTimeout(keep, KEEP_AFTER);
  };
  const now = () => timer && keep();
  const off = [cameraStore.subscribe(later), visibilityStore.subscribe(later)];
  window.addEventListener('pagehide', now);
  return () => {
    now();
    off.forEach((f) => f());
    window.removeEventListener('pagehide', now);
  };
}
