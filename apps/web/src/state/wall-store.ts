import type { WallMap } from '@bathyscope/core/walls';
import { createStore } from './tracked-store.ts';

interface WallState {
  /** Path of the component that is mapped; null when none is. */
  component: string | null;
  /** 0–1 while it is computed, else null. */
  progress: number | null;
  /** In the frame of its stored positions. */
  map: WallMap | null;
  error: string | null;
}

export const NO_WALLS: WallState = { component: null, progress: null, map: null, error: null };

/** The thickness of one component's walls, all over it. */
export const createWallState = () => createStore<WallState>()(() => NO_WALLS);
