import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { massText } from '@bathyscope/core/mass';
import { Copy, Download } from 'lucide-react';
import { toast } from '../../ui/notices.ts';
import { copyText } from '../../commands/keep/copy-text.ts';
import { BILL_NUMBERS, billRows, inBillOrder, massJson, massRows } from '../../pictures/mass-tables.ts';
import { saveCsv } from '../../pictures/save-csv.ts';
import { download, fileName } from '../../pictures/export-file.ts';
import { IconButton } from '../../ui/IconButton.tsx';
import { useWorkspace } from '../use-workspace.ts';
import type { ChosenMass } from '../../workspace/mass/chosen-mass.ts';

/** Copies and hands on what was weighed. */
export function MassMenu({ now }: { now: ChosenMass }) {
  const ws = useWorkspace();
  const { weighed, parts } = now;
  const name = (kind: string, ending: string) => fileName(ws.model.getState().detail!.name, kind, ending);
  const copy = () => {
    const { known } = weighed;
    if (!known) return void toast('Nothing is known to weigh here yet.', { id: 'refusal' });
    const text = massRows(ws, weighed)
      .map((row) => row.join('\t'))
      .join('\n');
    void copyText(text).then((done) => done && toast(`${massText(known.mass)} and its figures are copied.`));
  };
  const saveBill = async (pictured: boolean) => {
    const rows = billRows(parts, 'bill');
    const { writeXlsx } = await import('../../pictures/write-xlsx.ts');
    const picturesOf = async () => {
      const { partPictures, PART_PICTURE } = await import('../../scene/pictures/part-pictures.ts');
      const pictures = await partPictures(
        ws,
        inBillOrder(parts).map((p) => p.paths[0]),
      );
      return { column: rows[0].length, ...PART_PICTURE, pictures };
    };
    const shown = pictured ? await picturesOf() : undefined;
    const sheet = await writeXlsx(
      'Bill of materials',
      shown ? rows.map((row, i) => [...row, i ? '' : 'Picture']) : rows,
      BILL_NUMBERS,
      shown,
    );
    download(new Blob([sheet]), name('bill of materials', 'xlsx'), XLSX);
  };
  const items: [string, () => void][] = [
    ['Table of parts, CSV', () => saveCsv(ws, 'mass', billRows(parts, 'parts'))],
    ['All figures, JSON', () => download(massJson(ws, now), name('mass', 'json'), 'application/json')],
    ['Bill of materials, CSV', () => saveCsv(ws, 'bill of materials', billRows(parts, 'bill'))],
    ['Bill of materials, XLSX', () => void saveBill(false)],
    [
      'Bill of materials with pictures, XLSX',
      () =>
        void toast.promise(saveBill(true), {
          loading: `Drawing ${parts.length} parts …`,
          error: 'The pictures could not be drawn.',
        }),
    ],
  ];
  return (
    <div className="flex">
      <IconButton icon={Copy} label="Copy the figures" onClick={copy} />
      <Menu>
        <MenuButton
          aria-label="Save figures"
          title="Save figures"
          className="grid size-7 place-items-center rounded hover:bg-hover"
        >
          <Download size={17} strokeWidth={1.6} aria-hidden />
        </MenuButton>
        <MenuItems
          anchor="bottom end"
          className="z-30 rounded border border-border bg-panel p-1 text-[13px] shadow-card"
        >
          {items.map(([label, run]) => (
            <MenuItem key={label}>
              <button
                type="button"
                className="block w-full rounded px-2 py-1 text-left data-focus:bg-hover"
                onClick={run}
              >
                {label}
              </button>
            </MenuItem>
          ))}
        </MenuItems>
      </Menu>
    </div>
  );
}

const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
