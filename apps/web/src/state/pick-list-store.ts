import { createStore } from './tracked-store.ts';
import { type Picked } from './selection-store.ts';

interface PickListState {
  /** What lies under the cursor, nearest first; null while the list is closed. */
  list: { items: Picked[]; at: number; x: number; y: number } | null;
}

/** The pick-through list. Walking it previews; choosing picks. */
export const createPickListState = () => createStore<PickListState>()(() => ({ list: null }));
