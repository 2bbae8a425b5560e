import type { Fact } from '@bathyscope/core/facts';
import { createStore } from './tracked-store.ts';

export type MeasureTab = 'figures' | 'holes' | 'clashes' | 'wall';

interface MeasureState {
  tab: MeasureTab;
  /** Axes that figures are told in: the model's, the view's, or the id of a reference system. */
  displaySystem: string;
  /** The row of figures under the cursor, which is shown where it is measured. */
  pointed: Fact | null;
}

export const createMeasureState = () =>
  createStore<MeasureState>()(() => ({ tab: 'figures', displaySystem: 'model', pointed: null }));
