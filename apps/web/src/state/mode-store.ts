import { createStore } from './tracked-store.ts';
import type { GestureAction } from './gestures.ts';

/**
 * What the left drag does until Esc or the next command, for hands with one button; null
 * when it does what is bound.
 */
interface ModeState {
  leftDrag: { action: GestureAction; name: string } | null;
  /** Held keys that change a drag under way. */
  locked: boolean;
  panning: boolean;
  /** The rectangle being drawn, px of the canvas. */
  box: { x: number; y: number; width: number; height: number; touching: boolean } | null;
  /** The window has too little room for the panel, and for the strip, until they are asked for. */
  panelFolded: boolean;
  stripFolded: boolean;
  /** Reference geometry that was shown when all of it was switched off. */
  referencesBefore: readonly string[];
}

export const createModeState = () =>
  createStore<ModeState>()(() => ({
    leftDrag: null,
    locked: false,
    panning: false,
    box: null,
    panelFolded: false,
    stripFolded: false,
    referencesBefore: [],
  }));
