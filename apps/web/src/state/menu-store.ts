import { createStore } from './tracked-store.ts';

export interface OpenMenu {
  /** px in the window. */
  x: number;
  y: number;
  on: 'thing' | 'space';
}

export const createMenuState = () => createStore<{ open: OpenMenu | null }>()(() => ({ open: null }));
