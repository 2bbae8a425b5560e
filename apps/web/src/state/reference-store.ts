import { NO_REFERENCES, type ReferenceGeometry } from '@bathyscope/core/references';
import { createStore } from './tracked-store.ts';

/** Reference geometry of the model: what is one's own, and which of all is shown. */
export const createReferenceState = () => createStore<ReferenceGeometry>()(() => NO_REFERENCES);
