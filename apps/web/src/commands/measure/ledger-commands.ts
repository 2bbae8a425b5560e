import { ledgerEntry } from '@bathyscope/contracts/records';
import { BookmarkPlus, Download } from 'lucide-react';
import { openMeasure } from '../../workspace/keeping/change-settings.ts';
import { keepFigure, ledgerRows } from '../../workspace/keeping/ledger.ts';
import { kept } from '../../workspace/keeping/records.ts';
import { saveCsv } from '../../pictures/save-csv.ts';
import type { Picked } from '../../state/selection-store.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import type { Command } from '../command.ts';

/** Keeps a figure of picked things, the leading one where none is named, and says so. */
export function keepAndTell(ws: Workspace, items: readonly Picked[], label?: string): void {
  keepFigure(ws, items, label).then((kept) => {
    openMeasure(ws, 'figures');
    ws.notify(`“${kept.name}” is in the ledger.`, { id: 'kept-figure' });
  }, ws.notify.failed);
}

export const LEDGER_COMMANDS: Command[] = [
  {
    id: 'keep-figure',
    name: 'Keep the figure',
    group: 'Measure',
    icon: BookmarkPlus,
    shortcut: 'J',
    searchWords: ['save measurement', 'record', 'ledger', 'remember', 'dimension'],
    needs: 'thing',
    menu: 'thing',
    run: (ws, items) => keepAndTell(ws, items),
  },
  {
    id: 'ledger-csv',
    name: 'Save the ledger as CSV',
    group: 'Measure',
    icon: Download,
    searchWords: ['export measurements', 'spreadsheet', 'table', 'inspection sheet'],
    needs: 'nothing',
    refusal: (ws) =>
      kept(ws, ledgerEntry).length ? null : 'The ledger is empty. Pick something and keep its figure (J).',
    run: (ws) => void ledgerRows(ws, ws.profile.getState().unit).then((rows) => saveCsv(ws, 'ledger', rows)),
  },
];
