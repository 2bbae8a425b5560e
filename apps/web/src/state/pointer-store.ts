import type { Vec3 } from '@bathyscope/core/math';
import type { Picked } from './selection-store.ts';
import { createStore } from './tracked-store.ts';

interface PointerState {
  /** Where the cursor is on the model, or null beside it. */
  point: Vec3 | null;
  /** px of the canvas, or null outside. */
  at: { x: number; y: number } | null;
  /**
   * Where the cursor stood when another than the first of what may be meant there was asked
   * for, and which of how many.
   */
  cycled: { x: number; y: number; nth: number; of: number } | null;
  /** What was come to by keys; null once the mouse points. */
  walked: Picked | null;
}

export const createPointerState = () =>
  createStore<PointerState>()(() => ({ point: null, at: null, cycled: null, walked: null }));
