import { visibilityOf } from '@bathyscope/core/visibility';
import { createColumnHelper, type Table } from '@tanstack/react-table';
import { setVisible } from '../../commands/show/visibility-commands.ts';
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
