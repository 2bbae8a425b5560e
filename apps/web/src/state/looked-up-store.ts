import type { Vec3 } from '@bathyscope/core/math';
import { createStore } from './tracked-store.ts';

interface LookedUpState {
  /** The list of what was kept on other revisions is open. */
  open: boolean;
  /**
   * Where something was on another revision, as lines in the model as it lies now, mm;
   * null while none is shown.
   */
  old: { record: string; revision: number; lines: readonly (readonly Vec3[])[] } | null;
}

/** What was kept on other revisions, gone through one by one. */
export const createLookedUpState = () => createStore<LookedUpState>()(() => ({ open: false, old: null }));
