import { createStore } from './tracked-store.ts';

interface LedgerState {
  /**
   * Ids of kept figures that it was decided of whether they are drawn. Of others one's own are, and those of
   * colleagues are not until asked for.
   */
  drawn: string[];
  hidden: string[];
  /**
   * The dimension that is being moved, or of what is picked was moved last: its key, and by how many px from
   * where it would stand.
   */
  moved: { key: string; by: readonly [number, number] } | null;
}

/** Which kept measurements are drawn in the scene; what they are belongs to the model (`record-store.ts`). */
export const createLedgerState = () =>
  createStore<LedgerState>()(() => ({ drawn: [], hidden: [], moved: null }));
