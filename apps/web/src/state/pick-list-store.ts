import { createStore } from 'zustand/vanilla';
import { type Picked } from './selection-store.ts';
import type { Workspace } from '../workspace/workspace.ts';

interface PickListState {
  /** What lies under the cursor, nearest first; null while the list is closed. */
  list: { items: Picked[]; at: number; x: number; y: number } | null;
}

/** The pick-through list. Walking it previews; choosing picks. */
export const createPickListState = () => createStore<PickListState>()(() => ({ list: null }));

export function openPickList(ws: Workspace, items: Picked[], x: number, y: number): void {
  ws.pickList.setState({ list: { items, at: 0, x, y } });
  ws.selection.getState().setHover(items[0] ?? null);
}

export function walkPickList(ws: Workspace, by: number): void {
  const { list } = ws.pickList.getState();
  if (!list) return;
  const at = (list.at + by + list.items.length) % list.items.length;
  ws.pickList.setState({ list: { ...list, at } });
  ws.selection.getState().setHover(list.items[at]);
}

/** @returns false when it was closed already */
export function closePickList(ws: Workspace): boolean {
  const open = ws.pickList.getState().list !== null;
  ws.pickList.setState({ list: null });
  if (open) ws.selection.getState().setHover(null);
  return open;
}
