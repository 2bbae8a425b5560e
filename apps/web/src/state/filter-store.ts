import { createStore } from './tracked-store.ts';
export type PickFilter = 'all' | 'component' | 'body' | 'face' | 'edge' | 'vertex' | 'point';

interface FilterState {
  filter: PickFilter;
  kinds: { face: boolean; edge: boolean; vertex: boolean };
  /** Set when what is hit is widened to its component or body. */
  wide: 'component' | 'body' | null;
}

export const stateFor = (filter: PickFilter): FilterState => ({
  filter,
  kinds: {
    face:
      filter === 'all' ||
      filter === 'point' ||
      filter === 'face' ||
      filter === 'component' ||
      filter === 'body',
    edge: filter === 'all' || filter === 'point' || filter === 'edge',
    vertex: filter === 'all' || filter === 'point' || filter === 'vertex',
  },
  wide: filter === 'component' || filter === 'body' ? filter : null,
});

/** What a pick takes. */
export const createFilterState = () => createStore<FilterState>()(() => stateFor('all'));
