import { EMPTY_TRAIL, settle, step, type ViewTrail } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';
import { activePane, cameraStore } from './camera-store.ts';

/** ms without motion after which a view has settled. */
const SETTLED_AFTER = 350;

/** The view trail of each pane, by its id. */
export const trailStore = createStore<{ trails: Record<string, ViewTrail> }>()(() => ({ trails: {} }));

export const trailOf = (trails: Record<string, ViewTrail>, pane: string): ViewTrail => trails[pane] ?? EMPTY_TRAIL;

/** Follows the cameras; one entry for each view that settled. @returns what ends it */
export function keepTrails(): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  trailStore.setState({ trails: {} });
  const settleAll = () => trailStore.setState(({ trails }) => ({
    trails: Object.fromEntries(cameraStore.getState().panes.map(({ id, camera }) => [id, settle(trailOf(trails, id), camera)])),
  }));
  settleAll();
  const off = cameraStore.subscribe((now, before) => {
    if (now.panes === before.panes) return;
    clearTimeout(timer);
    timer = setTimeout(settleAll, SETTLED_AFTER);
  });
  return () => {
    clearTimeout(timer);
    off();
  };
}

/** Steps along the trail of the pane under the cursor. @returns the view to turn to, or null at its end */
export function stepTrail(by: 1 | -1) {
  const { id } = activePane();
  const next = step(trailOf(trailStore.getState().trails, id), by);
  if (!next) return null;
  trailStore.setState(({ trails }) => ({ trails: { ...trails, [id]: next } }));
  return next.views[next.at];
}
