import type { Vec3 } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';

/** Where on the model the cursor is, or null beside it. */
export const pointerStore = createStore<{ point: Vec3 | null }>()(() => ({ point: null }));
