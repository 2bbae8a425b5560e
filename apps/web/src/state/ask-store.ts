import { createStore } from './tracked-store.ts';

/** A number that a command asks for before it runs. */
export interface NumberQuestion {
  title: string;
  label: string;
  kind: 'length' | 'angle';
  /** mm or rad. */
  value: number;
  /** Also below zero. */
  signed?: boolean;
  run: (value: number) => void;
}

interface AskState {
  number: NumberQuestion | null;
  /** Components whose colour and transparency are being set. */
  colour: string[] | null;
  ask: (question: NumberQuestion) => void;
  askColour: (paths: string[]) => void;
  close: () => void;
}

export const createAskState = () =>
  createStore<AskState>()((set) => ({
    number: null,
    colour: null,
    ask: (number) => set({ number }),
    askColour: (colour) => set({ colour }),
    close: () => set({ number: null, colour: null }),
  }));
