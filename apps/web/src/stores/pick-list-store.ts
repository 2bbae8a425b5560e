import { createStore } from 'zustand/vanilla';
import { selectionStore, type Picked } from './selection-store.ts';

interface PickListState {
  /** What lies under the cursor, nearest first; null while the list is closed. */
  list: { items: Picked[]; at: number; x: number; y: number } | null;
}

/** The pick-through list. Walking it previews; choosing picks. */
export const pickListStore = createStore<PickListState>()(() => ({ list: null }));

export function openPickList(items: Picked[], x: number, y: number): void {
  pickListStore.setState({ list: { items, at: 0, x, y } });
  selectionStore.getState().setHover(items[0] ?? null);
}

export function walkPickList(by: number): void {
  const { list } = pickListStore.getState();
  if (!list) return;
  const at = (list.at + by + list.items.length) % list.items.length;
  pickListStore.setState({ list: { ...list, at } });
  selectionStore.getState().setHover(list.items[at]);
}

/** @returns false when it was closed already */
export function closePickList(): boolean {
  const open = pickListStore.getState().list !== null;
  pickListStore.setState({ list: null });
  if (open) selectionStore.getState().setHover(null);
  return open;
}
