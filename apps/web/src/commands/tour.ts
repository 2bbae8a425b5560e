import { createStore } from 'zustand/vanilla';
import { savedViewStore } from '../stores/saved-view-store.ts';
import { settingsStore } from '../stores/settings-store.ts';
import { showSavedView } from './saved-views.ts';

/** Index of the view the tour stands at, or null while none plays. */
export const tourStore = createStore<{ at: number | null }>()(() => ({ at: null }));

let timer: ReturnType<typeof setTimeout> | undefined;

/** Plays the saved views one after another, round and round, until it is stopped. */
export function startTour(): void {
  stopTour();
  show(0);
  // Whatever the hand does next ends it, but for what changes its pace.
  const end = (e: Event) => {
    if (!(e.target instanceof Element && e.target.closest('[data-tour]'))) stopTour();
  };
  window.addEventListener('pointerdown', end, { capture: true, signal: (stop = new AbortController()).signal });
  window.addEventListener('wheel', end, { capture: true, signal: stop.signal });
}

let stop = new AbortController();

function show(at: number): void {
  const { views } = savedViewStore.getState();
  const view = views[at % views.length];
  if (!view) return void stopTour();
  tourStore.setState({ at: at % views.length });
  showSavedView(view);
  timer = setTimeout(() => show(at + 1), settingsStore.getState().tourPace * 1000);
}

/** @returns false when none was playing */
export function stopTour(): boolean {
  clearTimeout(timer);
  stop.abort();
  const playing = tourStore.getState().at !== null;
  tourStore.setState({ at: null });
  return playing;
}
