import { sameView } from './between-views.ts';
import type { ViewCamera } from './view-camera.ts';

/** The history of settled views, one of which is the present. */
export interface ViewTrail {
  views: readonly ViewCamera[];
  /** Index of the present one; −1 while empty. */
  at: number;
}

export const EMPTY_TRAIL: ViewTrail = Object.freeze({ views: [], at: -1 });

/** Views kept. */
const LIMIT = 200;

/** Adds a settled view; what lay ahead is dropped. The same view again adds nothing. */
export function settle(trail: ViewTrail, view: ViewCamera): ViewTrail {
  if (trail.at >= 0 && sameView(trail.views[trail.at], view)) return trail;
  const views = [...trail.views.slice(0, trail.at + 1), view].slice(-LIMIT);
  return { views, at: views.length - 1 };
}

/** Steps back (−1) or forward (1); null at the end of the trail. */
export function step(trail: ViewTrail, by: 1 | -1): ViewTrail | null {
  const at = trail.at + by;
  return at >= 0 && at < trail.views.length ? { ...trail, at } : null;
}
