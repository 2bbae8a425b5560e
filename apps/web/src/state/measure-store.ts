import { createStore } from './tracked-store.ts';

export type MeasureTab = 'figures' | 'holes' | 'clashes' | 'wall';

interface MeasureState {
  tab: MeasureTab;
  /** Axes that figures are told in: the model's, the view's, or the id of a reference system. */
  displaySystem: string;
}

export const createMeasureState = () =>
  createStore<MeasureState>()(() => ({ tab: 'figures', displaySystem: 'model' }));
