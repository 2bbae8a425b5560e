import { savedViews, showSavedView } from './saved-views.ts';
import type { Workspace } from '../../workspace/workspace.ts';

/** Plays the saved views one after another, round and round, until it is stopped. */
export function startTour(ws: Workspace): void {
  stopTour(ws);
  show(ws, 0);
  // Whatever the hand does next ends it, but for what changes its pace.
  const end = (e: Event) => {
    if (!(e.target instanceof Element && e.target.closest('[data-tour]'))) stopTour(ws);
  };
  window.addEventListener('pointerdown', end, {
    capture: true,
    signal: (ws.players.tourStop = new AbortController()).signal,
  });
  window.addEventListener('wheel', end, { capture: true, signal: ws.players.tourStop.signal });
}

function show(ws: Workspace, at: number): void {
  const views = savedViews(ws);
  const view = views[at % views.length];
  if (!view) return void stopTour(ws);
  ws.tour.setState({ at: at % views.length });
  showSavedView(ws, view);
  ws.players.tourTimer = setTimeout(() => show(ws, at + 1), ws.profile.getState().tourPace * 1000);
}

/** @returns false when none was playing */
export function stopTour(ws: Workspace): boolean {
  clearTimeout(ws.players.tourTimer);
  ws.players.tourStop.abort();
  const playing = ws.tour.getState().at !== null;
  ws.tour.setState({ at: null });
  return playing;
}
