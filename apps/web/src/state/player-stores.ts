import { createStore } from './tracked-store.ts';
import type { Picked } from './selection-store.ts';

/** What waits for a pick, and what plays by itself. */

/** Of a command that waits, what is said to the user while it does. */
export interface WaitingCommand {
  readonly id: string;
  readonly name: string;
  readonly wants?: string;
  readonly count?: number;
  readonly needs: 'nothing' | 'thing' | 'components';
}

interface WaitingState {
  /** The command that waits for a pick. */
  waiting: WaitingCommand | null;
  /** Started twice: it goes on after each pick, until Esc. */
  repeating: boolean;
  /** What was clicked for it so far, where it takes several. */
  collected: Picked[];
}

export const NOT_WAITING: WaitingState = { waiting: null, repeating: false, collected: [] };

export const createWaitingState = () => createStore<WaitingState>()(() => NOT_WAITING);

/** The plane that is being played through the model. */
export const createSweepState = () => createStore<{ plane: string | null }>()(() => ({ plane: null }));

/** Index of the view the tour stands at, or null while none plays. */
export const createTourState = () => createStore<{ at: number | null }>()(() => ({ at: null }));
