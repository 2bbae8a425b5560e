import { useVirtualizer } from '@tanstack/react-virtual';
import { visibilityOf } from '@bathyscope/core';
import { ChevronDown, ChevronRight, Eye, EyeOff, Search, TriangleAlert, X } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { useStore } from 'zustand';
import { setVisible } from '../../commands/visibility-commands.ts';
import { historyStore } from '../../stores/history-store.ts';
import { componentsBelow, modelStore } from '../../stores/model-store.ts';
import { selectionStore } from '../../stores/selection-store.ts';
import { visibilityStore } from '../../stores/visibility-store.ts';
import { partColourOf } from './part-colour.ts';
import { treeRows, type TreeRow } from './tree-rows.ts';

const ROW_HEIGHT = 28;

/** The structure of the model as a tree: search, picking both ways, hide and show by the mark. */
export function PartsPanel() {
  const { occurrences, byPath, detail } = useStore(modelStore);
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [search, setSearch] = useState('');
  const rows = useMemo(() => treeRows(occurrences, byPath, folded, search), [occurrences, byPath, folded, search]);
  const counts = detail?.summary?.counts;
  const fold = (path: string, fold: boolean) => setFolded((old) => {
    const next = new Set(old);
    if (fold) next.add(path);
    else next.delete(path);
    return next;
  });
  return (
    <>
      <header className="px-3 pt-2.5">
        <h2 className="font-semibold">Parts</h2>
        {counts && <p className="text-[12.5px] text-soft">{counts.components} component{counts.components === 1 ? '' : 's'} of {counts.parts} part{counts.parts === 1 ? '' : 's'}</p>}
        <div className="relative mt-2 mb-1.5">
          <Search size={14} className="absolute top-[7px] left-2 text-soft" aria-hidden />
          <input type="search" value={search} onChange={(e) => setSearch(e.target.value)} placeholder="Search the parts" aria-label="Search the parts"
            onKeyDown={(e) => e.key === 'Escape' && (search ? setSearch('') : e.currentTarget.blur())}
            className="h-7 w-full rounded border border-border bg-well pr-7 pl-7 placeholder:text-soft [&::-webkit-search-cancel-button]:hidden" />
          {search && <button type="button" aria-label="Clear the search" className="absolute top-1.5 right-1.5 text-soft" onClick={() => setSearch('')}><X size={15} aria-hidden /></button>}
        </div>
      </header>
      {search && !rows.length ? <p className="px-3 py-4 text-soft">No component is called that.</p> : <Tree rows={rows} fold={fold} unfoldTo={setFolded} />}
      <Warnings warnings={detail?.warnings ?? []} />
    </>
  );
}

function Warnings({ warnings }: { warnings: string[] }) {
  if (!warnings.length) return null;
  return (
    <ul aria-label="About the file" className="max-h-28 shrink-0 overflow-y-auto border-t border-line px-3 py-2 text-[12.5px] text-amber">
      {warnings.map((w) => <li key={w} className="flex gap-1.5 py-0.5"><TriangleAlert size={14} className="mt-0.5 shrink-0" aria-hidden />{w}</li>)}
    </ul>
  );
}

interface TreeProps {
  rows: TreeRow[];
  fold: (path: string, fold: boolean) => void;
  unfoldTo: (change: (old: ReadonlySet<string>) => ReadonlySet<string>) => void;
}

function Tree({ rows, fold, unfoldTo }: TreeProps) {
  const ref = useRef<HTMLDivElement>(null);
  const picked = useStore(selectionStore, (s) => s.picked);
  const [active, setActive] = useState<string | null>(null);
  const virtual = useVirtualizer({ count: rows.length, getScrollElement: () => ref.current, estimateSize: () => ROW_HEIGHT, overscan: 8 });
  const chosen = useMemo(() => new Set(picked.map((p) => p.component)), [picked]);
  const last = picked.at(-1)?.component;

  // What is picked in the scene is brought into sight, its branches unfolded.
  useEffect(() => {
    if (!last) return;
    const { byPath } = modelStore.getState();
    const parents: string[] = [];
    for (let at = byPath.get(last)?.parent; at; at = byPath.get(at)?.parent) parents.push(at);
    unfoldTo((old) => (parents.some((p) => old.has(p)) ? new Set([...old].filter((p) => !parents.includes(p))) : old));
    setActive(last);
  }, [last, unfoldTo]);
  useEffect(() => {
    const index = rows.findIndex((r) => r.occurrence.path === last);
    if (last && index >= 0) virtual.scrollToIndex(index, { align: 'auto' });
    // The row is brought into sight when the pick changes, not whenever the tree is scrolled or folded.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [last]);

  const current = active !== null && rows.some((r) => r.occurrence.path === active) ? active : rows[0]?.occurrence.path;
  const onKey = (e: KeyboardEvent) => {
    const index = rows.findIndex((r) => r.occurrence.path === current);
    const row = rows[index];
    if (!row) return;
    const go = (to: number) => {
      const next = rows[Math.max(0, Math.min(rows.length - 1, to))];
      setActive(next.occurrence.path);
      virtual.scrollToIndex(rows.indexOf(next), { align: 'auto' });
      requestAnimationFrame(() => document.getElementById(rowId(next.occurrence.path))?.focus());
    };
    const actions: Record<string, () => void> = {
      ArrowDown: () => go(index + 1),
      ArrowUp: () => go(index - 1),
      Home: () => go(0),
      End: () => go(rows.length - 1),
      ArrowRight: () => (row.expanded === false ? fold(row.occurrence.path, false) : row.expanded && go(index + 1)),
      ArrowLeft: () => (row.expanded ? fold(row.occurrence.path, true) : go(rows.findIndex((r) => r.occurrence.path === row.occurrence.parent))),
      Enter: () => pickRow(row, e.shiftKey || e.ctrlKey),
      ' ': () => toggleVisible(row),
    };
    const action = actions[e.key];
    if (!action || e.altKey) return;
    e.preventDefault();
    e.stopPropagation();
    action();
  };

  return (
    <div ref={ref} role="treegrid" aria-label="Structure" aria-rowcount={rows.length} className="min-h-0 flex-1 overflow-y-auto" onKeyDown={onKey}
      onMouseLeave={() => selectionStore.getState().setHover(null)}>
      <div role="rowgroup" style={{ height: virtual.getTotalSize() }} className="relative">
        {virtual.getVirtualItems().map((item) => {
          const row = rows[item.index];
          return (
            <Row key={row.occurrence.path} row={row} index={item.index} top={item.start} chosen={chosen.has(row.occurrence.path)}
              focusable={row.occurrence.path === current} onActive={() => setActive(row.occurrence.path)} fold={fold} />
          );
        })}
      </div>
    </div>
  );
}

const rowId = (path: string): string => `row:${path}`;

function pickRow({ occurrence }: TreeRow, add: boolean): void {
  const item = { kind: 'component', component: occurrence.path, index: 0 } as const;
  if (add) selectionStore.getState().toggle(item);
  else selectionStore.getState().pick([item]);
}

function toggleVisible({ occurrence }: TreeRow): void {
  const shown = visibilityOf(visibilityStore.getState().states, componentsBelow(occurrence.path));
  const inverse = setVisible([occurrence.path], shown === 'none');
  if (inverse) historyStore.getState().record(inverse);
}

interface RowProps {
  row: TreeRow;
  index: number;
  top: number;
  chosen: boolean;
  focusable: boolean;
  onActive: () => void;
  fold: (path: string, fold: boolean) => void;
}

function Row({ row, index, top, chosen, focusable, onActive, fold }: RowProps) {
  const { occurrence, expanded } = row;
  const states = useStore(visibilityStore, (s) => s.states);
  const shown = useMemo(() => visibilityOf(states, componentsBelow(occurrence.path)), [states, occurrence.path]);
  const name = occurrence.instanceName ?? occurrence.name;
  const colour = partColourOf(occurrence);
  return (
    <div id={rowId(occurrence.path)} role="row" aria-level={occurrence.depth + 1} aria-posinset={row.position} aria-setsize={row.siblings} aria-rowindex={index + 1}
      aria-expanded={expanded ?? undefined} aria-selected={chosen} tabIndex={focusable ? 0 : -1}
      style={{ transform: `translateY(${top}px)`, height: ROW_HEIGHT, paddingLeft: 8 + Math.min(occurrence.depth, 10) * 14 }}
      className={`absolute inset-x-0 flex items-center gap-1 pr-1.5 outline-offset-[-2px] ${chosen ? 'bg-magenta-wash' : 'hover:bg-hover'} ${shown === 'none' ? 'text-soft' : ''}`}
      onClick={(e) => {
        onActive();
        pickRow(row, e.shiftKey || e.ctrlKey || e.metaKey);
      }}
      onMouseEnter={() => selectionStore.getState().setHover({ kind: 'component', component: occurrence.path, index: 0 })}>
      <span role="gridcell" className="flex min-w-0 flex-1 items-center gap-1" title={occurrence.instanceName ? `${name} (${occurrence.name})` : name}>
        {expanded === null ? <span className="w-5 shrink-0" /> : (
          <button type="button" tabIndex={-1} aria-label={expanded ? `Fold ${name}` : `Unfold ${name}`} className="grid size-5 shrink-0 place-items-center rounded text-soft hover:bg-line"
            onClick={(e) => {
              e.stopPropagation();
              fold(occurrence.path, expanded);
            }}>
            {expanded ? <ChevronDown size={15} aria-hidden /> : <ChevronRight size={15} aria-hidden />}
          </button>
        )}
        {colour && <span className="size-2.5 shrink-0 rounded-[2px] border border-black/25" style={{ background: colour }} />}
        <span className="min-w-0 truncate">
          <span className={expanded === null ? '' : 'font-medium'}>{name}</span>
          {occurrence.instanceName && occurrence.part !== undefined && <span className="text-[12.5px] text-soft">{' '}{occurrence.name}</span>}
        </span>
      </span>
      <span role="gridcell">
        <button type="button" tabIndex={-1} aria-label={`${shown === 'none' ? 'Show' : 'Hide'} ${name}`} aria-pressed={shown === 'none' ? false : shown === 'all' ? true : 'mixed'}
          className={`grid size-6 place-items-center rounded hover:bg-line ${shown === 'all' ? 'text-soft' : 'text-magenta'}`}
          onClick={(e) => {
            e.stopPropagation();
            toggleVisible(row);
          }}>
          {shown === 'none' ? <EyeOff size={15} aria-hidden /> : <Eye size={15} className={shown === 'some' ? 'opacity-60' : ''} aria-hidden />}
        </button>
      </span>
    </div>
  );
}
