import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp, Columns3 } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { useStore } from 'zustand';
import { type Picked } from '../../state/selection-store.ts';
import { COLUMN_NAMES, COLUMN_WIDTHS, rowId, toggleVisible } from './parts-table.ts';
import { PartTableRow } from './PartTableRow.tsx';
import type { PartColumn } from '../../state/settings-store.ts';
import type { PartRow, RowOptions } from './part-rows.ts';
import { useWorkspace } from '../use-workspace.ts';
import { changeSettings } from '../../workspace/change-settings.ts';

const ROW_HEIGHT = 28;
interface TableProps {
  rows: PartRow[];
  flat: boolean;
  sort: RowOptions['sort'];
  onSort: (sort: RowOptions['sort']) => void;
  changeFolded: (change: (old: ReadonlySet<string>) => ReadonlySet<string>) => void;
}

const itemOf = (path: string): Picked => ({ kind: 'component', component: path, index: 0 });
/** A virtualised treegrid (WAI-ARIA pattern): arrows move, Shift extends, Ctrl adds, Enter picks, Space hides and shows. */
export function PartsTable({ rows, flat, sort, onSort, changeFolded }: TableProps) {
  const ws = useWorkspace();
  const ref = useRef<HTMLDivElement>(null);
  const picked = useStore(ws.selection, (s) => s.picked);
  const [active, setActive] = useState<string | null>(null);
  const anchor = useRef<string | null>(null);
  const virtual = useVirtualizer({ count: rows.length, getScrollElement: () => ref.current, estimateSize: () => ROW_HEIGHT, overscan: 8 });
  const chosen = useMemo(() => new Set(picked.map((p) => p.component)), [picked]);
  const last = picked.at(-1)?.component;
  const fold = (path: string, folded: boolean) =>
    changeFolded((old) => {
      const next = new Set(old);
      if (folded) next.add(path);
      else next.delete(path);
      return next;
    });

  // What is picked in the scene is brought into sight, its branches unfolded.
  useEffect(() => {
    if (!last || flat) return;
    const { byPath } = ws.model.getState();
    const parents: string[] = [];
    for (let at = byPath.get(last)?.parent; at; at = byPath.get(at)?.parent) parents.push(at);
    changeFolded((old) => (parents.some((p) => old.has(p)) ? new Set([...old].filter((p) => !parents.includes(p))) : old));
    setActive(last);
  }, [last, flat, changeFolded, ws]);
  useEffect(() => {
    const index = rows.findIndex((r) => r.paths.includes(last ?? ''));
    if (last && index >= 0) virtual.scrollToIndex(index, { align: 'auto' });
    // The row is brought into sight when the pick changes, not whenever the table is scrolled or folded.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [last]);

  const current = active !== null && rows.some((r) => r.key === active) ? active : rows[0]?.key;

  /** Plain: this row alone. Ctrl: added or taken out. Shift: everything from the last plain one to here. */
  const choose = (row: PartRow, e: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) => {
    const { pick } = ws.selection.getState();
    setActive(row.key);
    const from = rows.findIndex((r) => r.key === anchor.current);
    if (e.shiftKey && from >= 0) {
      const to = rows.indexOf(row);
      return pick(rows.slice(Math.min(from, to), Math.max(from, to) + 1).flatMap((r) => r.paths.map(itemOf)));
    }
    anchor.current = row.key;
    if (!(e.ctrlKey || e.metaKey)) return pick(row.paths.map(itemOf));
    const now = ws.selection.getState().picked;
    const on = row.paths.every((p) => now.some((i) => i.component === p && i.kind === 'component'));
    pick(
      on
        ? now.filter((i) => !row.paths.includes(i.component))
        : [...now.filter((i) => !row.paths.includes(i.component)), ...row.paths.map(itemOf)],
    );
  };

  const onKey = (e: KeyboardEvent) => {
    const index = rows.findIndex((r) => r.key === current);
    const row = rows[index];
    if (!row || (e.target as HTMLElement).tagName === 'INPUT') return;
    const go = (to: number) => {
      const next = rows[Math.max(0, Math.min(rows.length - 1, to))];
      anchor.current ??= row.key;
      if (e.shiftKey) choose(next, e);
      setActive(next.key);
      virtual.scrollToIndex(rows.indexOf(next), { align: 'auto' });
      requestAnimationFrame(() => document.getElementById(rowId(next.key))?.focus());
    };
    const actions: Record<string, () => void> = {
      ArrowDown: () => go(index + 1),
      ArrowUp: () => go(index - 1),
      Home: () => go(0),
      End: () => go(rows.length - 1),
      ArrowRight: () => (row.expanded === false ? fold(row.key, false) : row.expanded && go(index + 1)),
      ArrowLeft: () => (row.expanded ? fold(row.key, true) : row.parent && go(rows.findIndex((r) => r.key === row.parent))),
      Enter: () => choose(row, e),
      ' ': () => toggleVisible(ws, row),
    };
    const action = actions[e.key];
    if (!action || e.altKey) return;
    e.preventDefault();
    e.stopPropagation();
    action();
  };

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <Header sort={sort} onSort={onSort} />
      <div
        ref={ref}
        role="treegrid"
        aria-label="Structure"
        aria-rowcount={rows.length}
        aria-multiselectable
        className="min-h-0 flex-1 overflow-y-auto"
        onKeyDown={onKey}
        onMouseLeave={() => ws.selection.getState().setHover(null)}
      >
        <div role="rowgroup" style={{ height: virtual.getTotalSize() }} className="relative">
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index];
            return (
              <PartTableRow
                key={row.key}
                row={row}
                index={item.index}
                top={item.start}
                height={ROW_HEIGHT}
                chosen={row.paths.some((p) => chosen.has(p))}
                focusable={row.key === current}
                onChoose={(e) => choose(row, e)}
                onFold={() => fold(row.key, row.expanded!)}
              />
            );
          })}
        </div>
      </div>
    </div>
  );
}

/** Sorts by a click; the menu at its end says which columns there are. */
function Header({ sort, onSort }: { sort: RowOptions['sort']; onSort: TableProps['onSort'] }) {
  const ws = useWorkspace();
  const columns = useStore(ws.profile, (s) => s.partColumns);
  const by = (column: NonNullable<RowOptions['sort']>['by'], name: string) => {
    const on = sort?.by === column;
    return (
      <button
        type="button"
        className={`flex min-w-0 items-center gap-0.5 truncate hover:text-ink ${on ? 'font-semibold text-ink' : ''}`}
        aria-label={`Sort by ${name.toLowerCase()}`}
        onClick={() => onSort(on && sort.down ? null : { by: column, down: on })}
      >
        {name}
        {on && (sort.down ? <ArrowDown size={11} aria-hidden /> : <ArrowUp size={11} aria-hidden />)}
      </button>
    );
  };
  return (
    <div className="flex items-center gap-1 border-y border-line bg-paper py-0.5 pr-1 pl-3 text-[12px] text-soft">
      <span className="min-w-0 flex-1">{by('name', 'Name')}</span>
      {columns.map((c) => (
        <span key={c} style={{ width: COLUMN_WIDTHS[c] }} className="flex shrink-0 justify-end">
          {by(c, COLUMN_NAMES[c])}
        </span>
      ))}
      <label className="relative grid size-6 place-items-center rounded hover:bg-hover" title="Columns">
        <Columns3 size={13} aria-hidden />
        <select
          aria-label="Columns"
          value=""
          className="absolute inset-0 cursor-pointer opacity-0"
          onChange={(e) => {
            const c = e.target.value as PartColumn;
            changeSettings(ws, { partColumns: columns.includes(c) ? columns.filter((x) => x !== c) : [...columns, c] });
          }}
        >
          <option value="" disabled>
            Columns
          </option>
          {(Object.keys(COLUMN_NAMES) as PartColumn[]).map((c) => (
            <option key={c} value={c}>
              {columns.includes(c) ? '✓ ' : '   '}
              {COLUMN_NAMES[c]}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}
