import type { Vec3 } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';

/** Where the cursor is: on the model, or null beside it; and its px of the canvas, or null outside. */
export const createPointerState = () =>
  createStore<{ point: Vec3 | null; at: { x: number; y: number } | null }>()(() => ({ point: null, at: null }));
