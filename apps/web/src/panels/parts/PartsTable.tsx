import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  arrayMove,
  horizontalListSortingStrategy,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { getCoreRowModel, useReactTable, type Table } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp, Columns3 } from 'lucide-react';
import { useEffect, useEffectEvent, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { useStore } from 'zustand';
import {
  COLUMN_NAMES,
  foldedWith,
  itemOf,
  itemsBetween,
  layoutOf,
  moveOfKey,
  NARROWEST,
  PART_COLUMNS,
  rowId,
  toggleVisible,
  WIDEST,
  withRowTurned,
  type Modifiers,
} from './parts-table.ts';
import { PartTableRow } from './PartTableRow.tsx';
import type { PartColumn } from '../../state/settings-store.ts';
import type { PartRow, RowOptions } from './part-rows.ts';
import { useWorkspace } from '../use-workspace.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';

const ROW_HEIGHT = 28;
interface TableProps {
  rows: PartRow[];
  flat: boolean;
  search: string;
  sort: RowOptions['sort'];
  onSort: (sort: RowOptions['sort']) => void;
  changeFolded: (change: (old: ReadonlySet<string>) => ReadonlySet<string>) => void;
}

/**
 * A virtualised treegrid (WAI-ARIA pattern): arrows move, Shift extends, Ctrl adds, Enter
 * picks, Space hides and shows.
 */
export function PartsTable({ rows, flat, search, sort, onSort, changeFolded }: TableProps) {
  const ws = useWorkspace();
  const ref = useRef<HTMLDivElement>(null);
  const picked = useStore(ws.selection, (s) => s.picked);
  const [active, setActive] = useState<string | null>(null);
  const anchor = useRef<string | null>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => ref.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
  });
  const table = usePartsTable(rows, sort, onSort);
  const layout = layoutOf(table);
  const columns = table
    .getVisibleLeafColumns()
    .flatMap(({ id }) => (id === 'name' ? [] : [id as PartColumn]));
  const chosen = useMemo(() => new Set(picked.map((p) => p.component)), [picked]);
  const last = picked.at(-1)?.component;
  const fold = (path: string, folded: boolean) => changeFolded((old) => foldedWith(old, path, folded));

  useInSight(flat ? undefined : last, changeFolded, setActive);
  const bringIntoSight = useEffectEvent((path: string | undefined) => {
    const index = rows.findIndex((r) => r.paths.includes(path ?? ''));
    if (path && index >= 0) virtual.scrollToIndex(index, { align: 'auto' });
  });
  // When the pick changes, not whenever the table is scrolled or folded.
  useEffect(() => bringIntoSight(last), [last]);

  const current = active !== null && rows.some((r) => r.key === active) ? active : rows[0]?.key;

  const choose = (row: PartRow, e: Modifiers) => {
    setActive(row.key);
    const from = e.shiftKey ? rows.findIndex((r) => r.key === anchor.current) : -1;
    const { picked: now, pick } = ws.selection.getState();
    if (from >= 0) return pick(itemsBetween(rows, from, rows.indexOf(row)));
    anchor.current = row.key;
    pick(e.ctrlKey || e.metaKey ? withRowTurned(now, row) : row.paths.map(itemOf));
  };
  const onKey = (e: KeyboardEvent) => {
    const index = rows.findIndex((r) => r.key === current);
    const row = rows[index];
    if (!row || e.altKey || (e.target as HTMLElement).tagName === 'INPUT') return;
    const go = (to: number) => {
      const next = rows[Math.max(0, Math.min(rows.length - 1, to))];
      anchor.current ??= row.key;
      if (e.shiftKey && next !== row) choose(next, e);
      setActive(next.key);
      virtual.scrollToIndex(rows.indexOf(next), { align: 'auto' });
      requestAnimationFrame(() => document.getElementById(rowId(next.key))?.focus());
    };
    const { to, folded } = moveOfKey(e.key, rows, index);
    if (to !== undefined) go(to);
    else if (folded !== undefined) fold(row.key, folded);
    else if (e.key === 'Enter') choose(row, e);
    else if (e.key === ' ') toggleVisible(ws, row);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div
        ref={ref}
        role="treegrid"
        aria-label="Structure"
        aria-rowcount={rows.length + 1}
        aria-multiselectable
        className="min-h-0 flex-1 overflow-auto"
        onKeyDown={onKey}
        onMouseLeave={() => ws.selection.getState().setHover(null)}
      >
        <Header table={table} layout={layout} />
        <div
          role="rowgroup"
          style={{ height: virtual.getTotalSize(), minWidth: layout.minWidth }}
          className="relative"
        >
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
                layout={layout}
                columns={columns}
                search={search}
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

/** Unfolds the branches above what is picked in the scene, and makes it the row that keys start from. */
function useInSight(
  path: string | undefined,
  changeFolded: TableProps['changeFolded'],
  setActive: (key: string) => void,
): void {
  const ws = useWorkspace();
  useEffect(() => {
    if (!path) return;
    const { byPath } = ws.model.getState();
    const parents: string[] = [];
    for (let at = byPath.get(path)?.parent; at; at = byPath.get(at)?.parent) parents.push(at);
    changeFolded((old) =>
      parents.some((p) => old.has(p)) ? new Set([...old].filter((p) => !parents.includes(p))) : old,
    );
    setActive(path);
  }, [path, changeFolded, setActive, ws]);
}

/** The headless table over rows that are sorted already, with what a user set about its columns. */
function usePartsTable(
  rows: PartRow[],
  sort: RowOptions['sort'],
  onSort: TableProps['onSort'],
): Table<PartRow> {
  const ws = useWorkspace();
  const { partColumns, partWidths } = useStore(ws.profile);
  const sorting = sort ? [{ id: sort.by, desc: sort.down }] : [];
  return useReactTable({
    data: rows,
    columns: PART_COLUMNS,
    getRowId: (row) => row.key,
    getCoreRowModel: getCoreRowModel(),
    manualSorting: true,
    sortDescFirst: false,
    columnResizeMode: 'onChange',
    // A column's handle is at its left: to the left is wider.
    columnResizeDirection: 'rtl',
    state: {
      sorting,
      columnSizing: partWidths as Record<string, number>,
      columnOrder: ['name', ...partColumns],
      columnVisibility: Object.fromEntries(
        (Object.keys(COLUMN_NAMES) as PartColumn[]).map((c) => [c, partColumns.includes(c)]),
      ),
    },
    onSortingChange: (change) => {
      const [next] = typeof change === 'function' ? change(sorting) : change;
      onSort(next ? { by: next.id as PartColumn | 'name', down: next.desc } : null);
    },
    onColumnSizingChange: (change) => {
      const widths = typeof change === 'function' ? change(partWidths as Record<string, number>) : change;
      const within = (width: number) => Math.max(NARROWEST, Math.min(WIDEST, width));
      changeSettings(ws, {
        partWidths: Object.fromEntries(Object.entries(widths).map(([id, width]) => [id, within(width)])),
      });
    },
  });
}

/**
 * Sorts by a click; a drag moves a column, its right edge makes it wider; the menu at the
 * end says which there are.
 */
function Header({ table, layout }: { table: Table<PartRow>; layout: ReturnType<typeof layoutOf> }) {
  const ws = useWorkspace();
  const columns = useStore(ws.profile, (s) => s.partColumns);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const headers = table.getFlatHeaders();
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      // What it tells screen readers is no row of the grid.
      accessibility={{ container: document.body }}
      onDragEnd={({ active, over }) =>
        over &&
        changeSettings(ws, {
          partColumns: arrayMove(
            columns,
            columns.indexOf(active.id as PartColumn),
            columns.indexOf(over.id as PartColumn),
          ),
        })
      }
    >
      <div
        role="row"
        aria-rowindex={1}
        style={layout}
        className="sticky top-0 z-10 grid items-center gap-1 border-y border-line bg-paper py-0.5 pr-1 pl-3 text-[12px] text-soft"
      >
        <SortableContext items={columns} strategy={horizontalListSortingStrategy}>
          {headers.map((header) =>
            header.column.id === 'name' ? (
              <span key={header.id} role="columnheader" aria-sort={ariaSort(header)} className="min-w-0">
                <SortButton header={header} />
              </span>
            ) : (
              <ColumnHead key={header.id} header={header} />
            ),
          )}
        </SortableContext>
        <span role="columnheader">
          <ColumnMenu columns={columns} />
        </span>
      </div>
    </DndContext>
  );
}

type PartHeader = ReturnType<Table<PartRow>['getFlatHeaders']>[number];

const ariaSort = ({ column }: PartHeader) =>
  column.getIsSorted() === 'asc' ? 'ascending' : column.getIsSorted() === 'desc' ? 'descending' : 'none';

function SortButton({ header: { column } }: { header: PartHeader }) {
  const sorted = column.getIsSorted();
  const name = String(column.columnDef.header);
  return (
    <button
      type="button"
      className={`flex max-w-full min-w-0 items-center gap-0.5 truncate hover:text-ink ${sorted ? 'font-semibold text-ink' : ''}`}
      aria-label={`Sort by ${name.toLowerCase()}`}
      onClick={() => (sorted === 'desc' ? column.clearSorting() : column.toggleSorting(sorted === 'asc'))}
    >
      {name}
      {sorted &&
        (sorted === 'desc' ? <ArrowDown size={11} aria-hidden /> : <ArrowUp size={11} aria-hidden />)}
    </button>
  );
}

function ColumnHead({ header }: { header: PartHeader }) {
  const { column } = header;
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: column.id });
  return (
    <span
      ref={setNodeRef}
      role="columnheader"
      aria-sort={ariaSort(header)}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`relative flex min-w-0 justify-end ${isDragging ? 'z-10 bg-panel shadow-card' : ''}`}
      {...listeners}
    >
      <SortButton header={header} />
      <span
        aria-hidden
        title="Width"
        className="absolute inset-y-0 -left-1.5 w-2 cursor-col-resize touch-none hover:bg-border"
        // Not the beginning of moving the column.
        onPointerDown={(e) => e.stopPropagation()}
        onMouseDown={header.getResizeHandler()}
        onTouchStart={header.getResizeHandler()}
        onDoubleClick={() => column.resetSize()}
      />
    </span>
  );
}

function ColumnMenu({ columns }: { columns: PartColumn[] }) {
  const ws = useWorkspace();
  return (
    <label className="relative grid size-6 place-items-center rounded hover:bg-hover" title="Columns">
      <Columns3 size={13} aria-hidden />
      <select
        aria-label="Columns"
        value=""
        className="absolute inset-0 cursor-pointer opacity-0"
        onChange={(e) => {
          const c = e.target.value as PartColumn;
          changeSettings(ws, {
            partColumns: columns.includes(c) ? columns.filter((x) => x !== c) : [...columns, c],
          });
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
  );
}
