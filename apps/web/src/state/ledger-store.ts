import { createStore } from 'zustand/vanilla';

interface LedgerState {
  /** Ids of kept figures that are not drawn. */
  hidden: string[];
}

/** Which kept measurements are drawn in the scene; what they are belongs to the model (`preference-store.ts`). */
export const createLedgerState = () => createStore<LedgerState>()(() => ({ hidden: [] }));
