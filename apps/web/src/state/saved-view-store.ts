import { createStore } from './tracked-store.ts';

/** Which of the saved views was recalled last, until the camera moves. */
export const createSavedViewsState = () =>
  createStore<{ current: string | null }>()(() => ({ current: null }));
