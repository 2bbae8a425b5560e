import { visibilityOf } from '@bathyscope/core';
import { setVisible } from '../../commands/show/visibility-commands.ts';
import type { PartColumn } from '../../state/settings-store.ts';
import { componentsBelow } from '../../workspace/components.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import type { PartRow } from './part-rows.ts';

/* What the parts table and its rows share. */

export const COLUMN_NAMES: Record<PartColumn, string> = { quantity: 'Qty', material: 'Material', mass: 'Mass', size: 'Size' };
export const COLUMN_WIDTHS: Record<PartColumn, number> = { quantity: 36, material: 84, mass: 66, size: 62 };

/** Id of the element of a row. */
export const rowId = (key: string): string => `row:${key}`;

export const allBelow = (ws: Workspace, row: PartRow): string[] => row.paths.flatMap((path) => componentsBelow(ws, path));

export function toggleVisible(ws: Workspace, row: PartRow): void {
  const shown = visibilityOf(ws.visibility.getState().states, allBelow(ws, row));
  const inverse = setVisible(ws, row.paths, shown === 'none');
  if (inverse) ws.history.getState().record(inverse);
}
