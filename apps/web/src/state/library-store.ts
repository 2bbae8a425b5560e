import type { OwnMaterial } from '@bathyscope/contracts';
import { createStore } from './tracked-store.ts';

/** Materials that were added to the library of this installation. */
export const createLibraryState = () => createStore<{ own: readonly OwnMaterial[] }>()(() => ({ own: [] }));
