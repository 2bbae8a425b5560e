import { createStore } from './tracked-store.ts';

/** What undoes a command, and what does it again. */
export interface Inverse {
  /** For the list: “hide 4 components”. */
  name: string;
  /** @returns false where all that it would change was left to others */
  undo: () => unknown;
  redo: () => unknown;
}

interface HistoryState {
  done: Inverse[];
  undone: Inverse[];
  record: (inverse: Inverse) => void;
  /** @returns what was undone; null where nothing was */
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
      const changed = last.undo() !== false;
      set((s) => ({ done: s.done.slice(0, -1), undone: [...s.undone, last] }));
      return changed ? last : null;
    },
    redo: () => {
      const last = get().undone.at(-1) ?? null;
      if (!last) return null;
      const changed = last.redo() !== false;
      set((s) => ({ done: [...s.done, last], undone: s.undone.slice(0, -1) }));
      return changed ? last : null;
    },
    clear: () => set({ done: [], undone: [] }),
  }));
