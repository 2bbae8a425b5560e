import { createStore } from 'zustand/vanilla';

/** What undoes a command, and what does it again. */
export interface Inverse {
  /** For the list: “hide 4 components”. */
  name: string;
  undo: () => void;
  redo: () => void;
}

interface HistoryState {
  done: Inverse[];
  undone: Inverse[];
  record: (inverse: Inverse) => void;
  undo: () => Inverse | null;
  redo: () => Inverse | null;
  clear: () => void;
}

/** Steps kept; each is a few small objects. */
const LIMIT = 200;

export const createHistoryState = () =>
  createStore<HistoryState>()((set, get) => ({
    done: [],
    undone: [],
    record: (inverse) => set((s) => ({ done: [...s.done, inverse].slice(-LIMIT), undone: [] })),
    undo: () => {
      const last = get().done.at(-1) ?? null;
      if (!last) return null;
      last.undo();
      set((s) => ({ done: s.done.slice(0, -1), undone: [...s.undone, last] }));
      return last;
    },
    redo: () => {
      const last = get().undone.at(-1) ?? null;
      if (!last) return null;
      last.redo();
      set((s) => ({ done: [...s.done, last], undone: s.undone.slice(0, -1) }));
      return last;
    },
    clear: () => set({ done: [], undone: [] }),
  }));
