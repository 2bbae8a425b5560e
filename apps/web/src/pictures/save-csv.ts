import { unparse } from 'papaparse';
import type { Workspace } from '../workspace/workspace.ts';
import { download, fileName } from './hand-out.ts';

/** What a spreadsheet would take for a formula; numbers below nil are none. */
const FORMULA = /^(?:[=+@\t\r]|-(?!\d+(?:\.\d+)?$)).*$/;

/** Saves rows as CSV that spreadsheets open as they are: with a mark that it is UTF-8. */
export function saveCsv(ws: Workspace, what: string, rows: string[][]): void {
  download(`\ufeff${unparse(rows, { escapeFormulae: FORMULA })}`, fileName(ws.model.getState().detail!.name, what, 'csv'), 'text/csv');
}
