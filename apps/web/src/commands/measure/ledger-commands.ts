import { unparse } from 'papaparse';
import { BookmarkPlus, Download, Layers2, Link2, Table2 } from 'lucide-react';
import { toast } from 'sonner';
import { changeSettings } from '../../workspace/change-settings.ts';
import { keepFigure, ledgerRows } from '../../workspace/ledger.ts';
import { isOfCut } from '../../state/selection-store.ts';
import { download, fileName } from '../../pictures/hand-out.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import type { Command } from '../command.ts';

/** What a spreadsheet would take for a formula; numbers below nil are none. */
const FORMULA = /^(?:[=+@\t\r]|-(?!\d+(?:\.\d+)?$)).*$/;

/** Saves rows as CSV that spreadsheets open as they are: with a mark that it is UTF-8. */
export function saveCsv(ws: Workspace, what: string, rows: string[][]): void {
  download(`\ufeff${unparse(rows, { escapeFormulae: FORMULA })}`, fileName(ws.model.getState().detail!.name, what, 'csv'), 'text/csv');
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
    run: (ws) => {
      const { picked } = ws.selection.getState();
      keepFigure(ws, picked).then(
        (kept) => {
          changeSettings(ws, { task: 'measure' });
          ws.measure.setState({ tab: 'figures' });
          toast(`“${kept.name}” is in the ledger.`, { id: 'kept-figure' });
        },
        (error: unknown) => toast.error(error instanceof Error ? error.message : String(error)),
      );
    },
  },
  {
    id: 'copy-reference',
    name: 'Copy the reference',
    group: 'Measure',
    icon: Link2,
    searchWords: ['name of the face', 'identifier', 'path', 'script'],
    needs: 'thing',
    fits: (item) => !isOfCut(item.kind) && item.kind !== 'body',
    wants: 'Components, faces, edges and vertices have references; cuts have none.',
    menu: 'thing',
    // As `bin/inspect --measure` takes them.
    run: (ws, items) => {
      const text = items
        .map(({ kind, component, index }) => (kind === 'component' ? component : `${component}#${kind}:${index}`))
        .join('\n');
      void navigator.clipboard
        .writeText(text)
        .then(() => toast(items.length === 1 ? `Copied: ${text}` : `${items.length} references are copied.`));
    },
  },
  {
    id: 'ledger-csv',
    name: 'Save the ledger as CSV',
    group: 'Measure',
    icon: Download,
    searchWords: ['export measurements', 'spreadsheet', 'table', 'inspection sheet'],
    needs: 'nothing',
    refusal: (ws) => (ws.preference.getState().figures.length ? null : 'The ledger is empty. Pick something and keep its figure (J).'),
    run: (ws) => void ledgerRows(ws, ws.profile.getState().unit).then((rows) => saveCsv(ws, 'ledger', rows)),
  },
  {
    id: 'wall',
    name: 'Wall thickness',
    group: 'Measure',
    icon: Layers2,
    searchWords: ['thin', 'thinnest', 'thickness map', 'material thickness', 'wall map'],
    needs: 'nothing',
    run: (ws) => {
      changeSettings(ws, { task: 'measure' });
      ws.measure.setState({ tab: 'wall' });
    },
  },
  {
    id: 'holes',
    name: 'Table of holes',
    group: 'Measure',
    icon: Table2,
    searchWords: ['hole table', 'drill table', 'bolt circle', 'hole list', 'bores', 'drilling'],
    needs: 'nothing',
    run: (ws) => {
      changeSettings(ws, { task: 'measure' });
      ws.measure.setState({ tab: 'holes' });
    },
  },
];
