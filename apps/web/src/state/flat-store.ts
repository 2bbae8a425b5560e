import { createStore } from './tracked-store.ts';

/** The drawing of a cut, beside the scene or instead of it. */
interface FlatState {
  open: boolean;
  /** Whose cut it shows; the first when it is gone. */
  plane: string | null;
  wide: boolean;
  hatched: boolean;
}

export const createFlatState = () =>
  createStore<FlatState>()(() => ({ open: false, plane: null, wide: false, hatched: true }));
