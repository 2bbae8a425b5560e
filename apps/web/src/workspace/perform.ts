import type { StoreApi } from 'zustand/vanilla';
import type { Inverse } from '../state/history-store.ts';
import type { Workspace } from './workspace.ts';

/**
 * Changes a store and tells how to go back: by a patch of just the fields that were changed, so that undoing
 * one thing never restores another.
 */
export function patched<S extends object>(name: string, store: StoreApi<S>, patch: Partial<S>): Inverse {
  const now = store.getState();
  const before = Object.fromEntries(
    Object.keys(patch).map((key) => [key, now[key as keyof S]]),
  ) as Partial<S>;
  store.setState(patch);
  return { name, undo: () => store.setState(before), redo: () => store.setState(patch) };
}

/** Equal as what is kept, whichever objects hold it. */
const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/**
 * Makes a change to several stores and tells how to go back, as `patched` does for one; nothing
 * when nothing was changed.
 */
export function patchedBy(
  name: string,
  stores: readonly StoreApi<object>[],
  change: () => void,
): Inverse | void {
  const before = stores.map((store) => store.getState() as Record<string, unknown>);
  change();
  const patches = stores.flatMap((store, i) => {
    const now = store.getState() as Record<string, unknown>;
    const keys = Object.keys(now).filter((key) => !same(now[key], before[i][key]));
    const pick = (state: Record<string, unknown>) => Object.fromEntries(keys.map((key) => [key, state[key]]));
    return keys.length ? [{ store, undo: pick(before[i]), redo: pick(now) }] : [];
  });
  if (!patches.length) return;
  return {
    name,
    undo: () => patches.forEach(({ store, undo }) => store.setState(undo)),
    redo: () => patches.forEach(({ store, redo }) => store.setState(redo)),
  };
}

/** Puts a change that was made on the list of what can be undone. */
export const record = (ws: Workspace, inverse: Inverse | void): void =>
  void (inverse && ws.history.getState().record(inverse));

/** Changes a store for the user, so that it can be undone. */
export const perform = <S extends object>(
  ws: Workspace,
  name: string,
  store: StoreApi<S>,
  patch: Partial<S>,
): void => record(ws, patched(name, store, patch));
