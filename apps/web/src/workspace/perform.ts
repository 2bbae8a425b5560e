import type { StoreApi } from 'zustand/vanilla';
import type { Inverse } from '../state/history-store.ts';
import type { Workspace } from './workspace.ts';

/** Changes a store and tells how to go back: by a patch of just the fields that were changed, so that undoing one thing never restores another. */
export function patched<S extends object>(name: string, store: StoreApi<S>, patch: Partial<S>): Inverse {
  const now = store.getState();
  const before = Object.fromEntries(Object.keys(patch).map((key) => [key, now[key as keyof S]])) as Partial<S>;
  store.setState(patch);
  return { name, undo: () => store.setState(before), redo: () => store.setState(patch) };
}

/** Puts a change that was made on the list of what can be undone. */
export const record = (ws: Workspace, inverse: Inverse | void): void => void (inverse && ws.history.getState().record(inverse));

/** Changes a store for the user, so that it can be undone. */
export const perform = <S extends object>(ws: Workspace, name: string, store: StoreApi<S>, patch: Partial<S>): void =>
  record(ws, patched(name, store, patch));
