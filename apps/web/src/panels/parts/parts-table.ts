import { visibilityOf } from '@bathyscope/core/visibility';
import { createColumnHelper, type Table } from '@tanstack/react-table';
import { setVisible } from '../../commands/show/visibility-commands.ts';
import type { Picked } from '../../state/selection-store.ts';
import type { PartColumn } from '../../state/settings-store.ts';
import { componentsBelow } from '../../workspace/shown/components.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import type { PartRow } from './part-rows.ts';

/* What the parts table and its rows share. */

export const COLUMN_NAMES: Record<PartColumn, string> = {
  quantity: 'Qty',
  material: 'Material',
  mass: 'Mass',
  size: 'Size',
};
/** px, until they are made wider or narrower. */
const COLUMN_WIDTHS: Record<PartColumn, number> = { quantity: 36, material: 84, mass: 66, size: 62 };
/** px between which a column may be. */
export const NARROWEST = 30;
export const WIDEST = 400;
/** px that a name keeps; where that leaves no room for the columns they scroll. */
const NAME = 140;
/** px of the eye at the end, and of the gaps. */
const EYE = 26;

const column = createColumnHelper<PartRow>();

/**
 * The columns of a row, for the headless table: what they are called, how wide they are, and that they are
 * sorted beforehand.
 */
export const PART_COLUMNS = [
  column.accessor('name', { header: 'Name', minSize: NAME, enableResizing: false }),
  ...(Object.keys(COLUMN_NAMES) as PartColumn[]).map((id) =>
    column.accessor((row) => row[id], {
      id,
      header: COLUMN_NAMES[id],
      size: COLUMN_WIDTHS[id],
      minSize: NARROWEST,
      maxSize: WIDEST,
    }),
  ),
];

/** The same widths for the head and every row: the name takes what is left, and never less than it needs. */
export function layoutOf(table: Table<PartRow>): { gridTemplateColumns: string; minWidth: number } {
  const others = table.getVisibleLeafColumns().filter((c) => c.id !== 'name');
  const widths = others.map((c) => c.getSize());
  return {
    gridTemplateColumns: [`minmax(${NAME}px, 1fr)`, ...widths.map((w) => `${w}px`), `${EYE}px`].join(' '),
    minWidth: NAME + widths.reduce((sum, w) => sum + w, 0) + EYE + 4 * (widths.length + 2),
  };
}

/** Id of the element of a row. */
export const rowId = (key: string): string => `row:${key}`;

export const allBelow = (ws: Workspace, row: PartRow): string[] =>
  row.paths.flatMap((path) => componentsBelow(ws, path));

export function toggleVisible(ws: Workspace, row: PartRow): void {
  const shown = visibilityOf(ws.visibility.getState().states, allBelow(ws, row));
  const inverse = setVisible(ws, row.paths, shown === 'none');
  if (inverse) ws.history.getState().record(inverse);
}

export interface Modifiers {
  shiftKey: boolean;
  ctrlKey: boolean;
  metaKey: boolean;
}

export function foldedWith(old: ReadonlySet<string>, path: string, folded: boolean): ReadonlySet<string> {
  const next = new Set(old);
  if (folded) next.add(path);
  else next.delete(path);
  return next;
}

export const itemOf = (path: string): Picked => ({ kind: 'component', component: path, index: 0 });

/** With Shift: everything from one row to another. */
export const itemsBetween = (rows: readonly PartRow[], from: number, to: number): Picked[] =>
  rows.slice(Math.min(from, to), Math.max(from, to) + 1).flatMap((r) => r.paths.map(itemOf));

/** With Ctrl: what is picked with a row added, or taken out where all of it was among it. */
export function withRowTurned(picked: readonly Picked[], row: PartRow): Picked[] {
  const others = picked.filter((i) => !row.paths.includes(i.component));
  const on = row.paths.every((p) => picked.some((i) => i.component === p && i.kind === 'component'));
  return on ? others : [...others, ...row.paths.map(itemOf)];
}

/** Where a key leads in the tree (WAI-ARIA, treegrid pattern), or whether it folds the row it is on. */
export function moveOfKey(
  key: string,
  rows: readonly PartRow[],
  index: number,
): { to?: number; folded?: boolean } {
  const row = rows[index];
  switch (key) {
    case 'ArrowDown':
      return { to: index + 1 };
    case 'ArrowUp':
      return { to: index - 1 };
    case 'Home':
      return { to: 0 };
    case 'End':
      return { to: rows.length - 1 };
    case 'ArrowRight':
      return row.expanded === false ? { folded: false } : { to: row.expanded ? index + 1 : index };
    case 'ArrowLeft':
      if (row.expanded) return { folded: true };
      return { to: row.parent ? rows.findIndex((r) => r.key === row.parent) : index };
    default:
      return {};
  }
}
