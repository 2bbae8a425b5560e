import { useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { holeList } from '../../pictures/hole-list.ts';
import { saveCsv } from '../../pictures/save-csv.ts';
import { Choice } from '../../ui/Choice.tsx';
import { shownName } from '../../workspace/shown/components.ts';
import { holeKinds, holeTable, type HoleScope } from '../../workspace/measuring/hole-table.ts';
import { useUnits } from '../use-units.ts';
import { useDerived } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { HoleRows } from './HoleRows.tsx';

/** All holes of what is shown or picked, with where they are; a click picks one. */
export function HoleTable() {
  const ws = useWorkspace();
  const style = useUnits();
  const nothing = useStore(ws.selection, (s) => !s.picked.length);
  const [scope, setScope] = useState<HoleScope>('shown');
  const { rows, axes } = useDerived(holeTable, scope);
  const kinds = useMemo(() => holeKinds(rows, style), [rows, style]);
  return (
    <section aria-label="Holes" className="flex min-h-0 flex-1 flex-col px-3 pt-2">
      <Choice
        label="Holes of"
        value={scope}
        options={[
          ['shown', 'Of all shown'],
          ['picked', 'Of what is picked'],
        ]}
        onChange={setScope}
      />
      {!rows.length ? (
        <p className="mt-2 text-[13px] text-soft">
          {scope === 'picked' && nothing
            ? 'Pick a part for all its holes, a flat face for those in it, or a hole for all like it.'
            : 'There are no holes here.'}
        </p>
      ) : (
        <>
          <ul
            aria-label="Kinds of holes"
            tabIndex={0}
            className="mt-2 max-h-32 shrink-0 overflow-y-auto text-[12.5px]"
          >
            {kinds.map((kind) => (
              <li key={kind.type} className="border-b border-line py-0.5 last:border-0">
                <span className="figures font-medium">
                  {kind.type} {kind.count} × {kind.text}
                </span>
                {kind.likely && <span className="block text-soft">likely a {kind.likely}</span>}
              </li>
            ))}
          </ul>
          <p className="mt-2 flex text-[12.5px] text-soft">
            <span className="flex-1">
              {rows.length === 1 ? 'One hole' : `${rows.length} holes`}, {style.unit}
            </span>
            <button
              type="button"
              className="text-blue hover:underline"
              onClick={() =>
                saveCsv(
                  ws,
                  'holes',
                  holeList(rows, style, (path) => shownName(ws, path)),
                )
              }
            >
              Save as CSV
            </button>
          </p>
          <HoleRows rows={rows} axes={axes} />
        </>
      )}
    </section>
  );
}
