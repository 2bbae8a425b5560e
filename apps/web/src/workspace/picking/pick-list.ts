import { type Picked } from '../../state/selection-store.ts';
import type { Workspace } from '../workspace.ts';

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
