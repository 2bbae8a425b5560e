import { EMPTY_TRAIL, type ViewTrail } from '@bathyscope/core/camera';
import { createStore } from './tracked-store.ts';
/** The view trail of each pane, by its id. */
export const createTrailState = () =>
  createStore<{ trails: Record<string, ViewTrail> }>()(() => ({ trails: {} }));

export const trailOf = (trails: Record<string, ViewTrail>, pane: string): ViewTrail =>
  trails[pane] ?? EMPTY_TRAIL;
