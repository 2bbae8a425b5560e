import { useEffect } from 'react';
import { migrateViewState, readSection, type ViewState } from '@bathyscope/core';
import { api } from '../api/api.ts';
import { waitingStore } from '../commands/run-command.ts';
import { stopTour } from '../commands/tour.ts';
import { loadGeometry } from '../scene/load-geometry.ts';
import { setWorkspaceOpen } from '../shelf/thumbnails.ts';
import { cameraStore } from '../stores/camera-store.ts';
import { setPickFilter } from '../stores/filter-store.ts';
import { historyStore } from '../stores/history-store.ts';
import { modelStore } from '../stores/model-store.ts';
import { modeStore } from '../stores/mode-store.ts';
import { preferenceStore, type ModelPreference, type PickSet } from '../stores/preference-store.ts';
import { savedViewStore } from '../stores/saved-view-store.ts';
import { selectionStore } from '../stores/selection-store.ts';
import { referenceStore } from '../stores/reference-store.ts';
import { sectionStore } from '../stores/section-store.ts';
import { styleStore } from '../stores/style-store.ts';
import { keepTrails } from '../stores/trail-store.ts';
import { visibilityStore } from '../stores/visibility-store.ts';
import { currentState, restoreState } from './view-states.ts';

/** ms without a change after which the state of the model is kept. */
const KEEP_AFTER = 800;

/** Loads a model into the stores, brings back its last state, and keeps it from then on. */
export function useModel(id: string, link?: string): void {
  useEffect(() => {
    const stop = new AbortController();
    let forgetKeeping = () => {};
    setWorkspaceOpen(true);
    selectionStore.setState({ hover: null, picked: [] });
    historyStore.getState().clear();
    setPickFilter('all');
    waitingStore.setState({ waiting: null, repeating: false, collected: [] });
    void load(id, link, stop.signal).then(
      () => {
        if (!stop.signal.aborted) forgetKeeping = keepState(id);
      },
      (error: Error) => stop.signal.aborted || modelStore.getState().fail(error.message),
    );
    return () => {
      stop.abort();
      setWorkspaceOpen(false);
      stopTour();
      modeStore.setState({ leftDrag: null, box: null });
      forgetKeeping();
      modelStore.getState().clear();
    };
  }, [id, link]);
}

async function load(id: string, link: string | undefined, signal: AbortSignal): Promise<void> {
  modelStore.getState().clear();
  const [detail, last, preference, views] = await Promise.all([api.model(id), link ? api.link(id, link) : api.viewState(id), api.preferences(id), api.savedViews(id)]);
  signal.throwIfAborted();
  if (detail.state !== 'ready') throw new Error(`“${detail.name}” is still being converted. Come back to it from the shelf when it is done.`);
  modelStore.getState().begin(detail);
  const parts = await loadGeometry(detail, modelStore.getState().setProgress, signal);
  // The state first, so that the first frame is already the right one.
  modelStore.setState({ parts });
  preferenceStore.setState(readPreference(preference.values));
  cameraStore.getState().setUpAxis(preferenceStore.getState().upAxis);
  savedViewStore.setState({ views, current: null });
  restoreState(lastState(last.document));
  modelStore.getState().finish(parts);
}

function lastState(document: unknown): ViewState | null {
  try {
    return document ? migrateViewState(document) : null;
  } catch {
    // Written by a newer version: the model opens at home, nothing is lost.
    return null;
  }
}

/** What was set about the model; values this version does not know stay plain. */
function readPreference(values: Record<string, unknown> | null): ModelPreference {
  return {
    upAxis: values?.['upAxis'] === 'y' ? 'y' : 'z',
    home: lastState(values?.['home']),
    homeFramesVisible: values?.['homeFramesVisible'] !== false,
    names: Object.fromEntries(Object.entries((values?.['names'] ?? {}) as Record<string, unknown>).filter((e): e is [string, string] => typeof e[1] === 'string')),
    pickSets: Array.isArray(values?.['pickSets']) ? (values['pickSets'] as PickSet[]).filter((set) => typeof set?.id === 'string' && Array.isArray(set.items)) : [],
    sections: list(values?.['sections']).flatMap((s) => (typeof s['id'] === 'string' && typeof s['name'] === 'string' ? [{ id: s['id'], name: s['name'], section: readSection(s['section']), whole: list(s['whole']).map(String) }] : [])),
  };
}

const list = (value: unknown): Record<string, unknown>[] => (Array.isArray(value) ? (value as Record<string, unknown>[]) : []);

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
  const off = [
    cameraStore.subscribe((now, before) => now.panes !== before.panes && later()), visibilityStore.subscribe(later), styleStore.subscribe(later), referenceStore.subscribe(later), sectionStore.subscribe(later), keepTrails(),
    preferenceStore.subscribe((values) => void api.savePreferences(id, values).catch(() => {})),
  ];
  window.addEventListener('pagehide', now);
  return () => {
    now();
    off.forEach((f) => f());
    window.removeEventListener('pagehide', now);
  };
}
