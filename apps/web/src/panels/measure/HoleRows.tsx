import { stepsText } from '@bathyscope/core/facts';
import {
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type SortingState,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { useWidth } from '../../ui/use-width.ts';
import type { HoleRow } from '../../workspace/measuring/hole-table.ts';
import { useUnits } from '../use-units.ts';
import { useWorkspace } from '../use-workspace.ts';
import { holeColumns, holeGrid } from './hole-grid.ts';

/** px: a line of a row, and what a row has beside its lines. */
const LINE = 18;
const ROW_BESIDE_LINES = 8;
const column = createColumnHelper<HoleRow>();
const SORTED = { asc: ['ascending', ' ↑'], desc: ['descending', ' ↓'] } as const;

/** The table of holes; a click on a row picks its hole. */
export function HoleRows({ rows, axes }: { rows: readonly HoleRow[]; axes: readonly number[] }) {
  const style = useUnits();
  const [sorting, setSorting] = useState<SortingState>([]);
  const columns = useMemo(() => holeColumns(axes, style), [axes, style]);
  const table = useReactTable({
    data: rows as HoleRow[],
    columns: useMemo(
      () =>
        columns.map(({ id, head, text, by }) =>
          column.accessor(by, {
            id,
            header: head,
            cell: (c) => text(c.row.original),
            sortingFn: id === 'mark' ? 'alphanumeric' : 'basic',
          }),
        ),
      [columns],
    ),
    state: { sorting },
    onSortingChange: setSorting,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  const whole = useRef<HTMLDivElement>(null);
  const width = useWidth(whole);
  const body = useRef<HTMLDivElement>(null);
  const sorted = table.getRowModel().rows;
  const { grid, lines, cell } = useMemo(
    () => holeGrid(columns, axes.length, rows, width),
    [columns, axes, rows, width],
  );
  const high = lines * LINE + ROW_BESIDE_LINES;
  const virtual = useVirtualizer({
    count: sorted.length,
    getScrollElement: () => body.current,
    estimateSize: () => high,
    overscan: 8,
  });
  useEffect(() => virtual.measure(), [virtual, high]);
  return (
    <div
      ref={whole}
      role="table"
      aria-label="Table of holes"
      aria-rowcount={rows.length}
      className="mt-1 flex min-h-40 flex-1 flex-col overflow-x-auto text-[12.5px]"
    >
      {table.getHeaderGroups().map((group) => (
        <div key={group.id} role="row" className="grid border-b border-border" style={grid}>
          {group.headers.map((h, i) => {
            const by = h.column.getIsSorted();
            return (
              <span
                key={h.id}
                role="columnheader"
                style={cell(i)}
                aria-sort={by ? SORTED[by][0] : 'none'}
                className="text-right first:text-left"
              >
                <button
                  type="button"
                  className="min-h-6 w-full px-1 text-[length:inherit] font-medium text-soft [text-align:inherit] hover:bg-hover"
                  onClick={h.column.getToggleSortingHandler()}
                >
                  {flexRender(h.column.columnDef.header, h.getContext())}
                  {by && SORTED[by][1]}
                </button>
              </span>
            );
          })}
        </div>
      ))}
      <div ref={body} className="min-h-0 flex-1 overflow-y-auto" style={{ minWidth: grid.minWidth }}>
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, size, start }) => (
            <Row
              key={sorted[index].id}
              row={sorted[index].original}
              style={{ ...grid, height: size, transform: `translateY(${start}px)` }}
            >
              {columns.map(({ id, text }, i) => (
                <span
                  key={id}
                  role="cell"
                  style={cell(i)}
                  className="figures px-1 text-right text-[12px] first:text-left"
                >
                  {text(sorted[index].original)}
                </span>
              ))}
            </Row>
          ))}
        </div>
      </div>
    </div>
  );
}

function Row({
  row: { component, face, hole },
  style,
  children,
}: {
  row: HoleRow;
  style: React.CSSProperties;
  children: React.ReactNode;
}) {
  const ws = useWorkspace();
  const { unit } = useUnits();
  const on = useStore(ws.selection, ({ picked }) =>
    picked.some((p) => p.kind === 'face' && p.component === component && p.index === face),
  );
  const pick = () => ws.selection.getState().pick([{ kind: 'face', component, index: face }]);
  return (
    <div
      role="row"
      aria-selected={on}
      title={stepsText(hole, unit) || undefined}
      className={`absolute inset-x-0 grid cursor-pointer content-center border-b border-line hover:bg-hover ${on ? 'text-magenta' : ''}`}
      style={style}
      tabIndex={0}
      onClick={pick}
      onKeyDown={(e) => {
        if (e.key === 'Enter' || e.key === ' ') pick();
      }}
    >
      {children}
    </div>
  );
}
