import { createStore } from '../../state/tracked-store.ts';

/** Whether something made here is not kept yet, because it could not be. */
export const createKeepingState = () => createStore<{ unsaved: boolean }>()(() => ({ unsaved: false }));
