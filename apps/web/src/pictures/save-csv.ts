import { unparse } from 'papaparse';
import type { Workspace } from '../workspace/workspace.ts';
import { download, fileName } from './export-file.ts';

/**
 * What a spreadsheet would take for a formula, also with what follows in other lines;
 * numbers below nil are none.
 */
const FORMULA = /^(?:[=+@＝＋＠－\t\r\n]|-(?!\d+(?:\.\d+)?(?:e[+-]?\d+)?$))/i;

/**
 * Rows as CSV that spreadsheets open as they are: with a mark that it is UTF-8, and nothing in it
 * that they would work out.
 */
export const writeCsv = (rows: readonly (readonly string[])[]): string =>
  `\ufeff${unparse(rows as string[][], { escapeFormulae: FORMULA })}`;

/** Saves rows as CSV. */
export function saveCsv(ws: Workspace, what: string, rows: readonly (readonly string[])[]): void {
  download(writeCsv(rows), fileName(ws.model.getState().detail!.name, what, 'csv'), 'text/csv');
}
