import { formatQuantity, type UnitStyle } from '@bathyscope/core/units';
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
import { saveCsv } from '../../pictures/save-csv.ts';
import { Choice } from '../../ui/Choice.tsx';
import { useWidth } from '../../ui/use-width.ts';
import { shownName } from '../../workspace/shown/components.ts';
import { holeTable, type HoleRow, type HoleScope } from '../../workspace/measuring/hole-table.ts';
import { useUnits } from '../use-units.ts';
import { useDerived } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';

const length = (mm: number, style: UnitStyle): string => formatQuantity(mm, 'length', style).text;
const AXES = ['X', 'Y', 'Z'];
/** px that a figure takes beside its digits, and each of those. */
const BESIDE_DIGITS = 9;
const DIGIT = 7.3;
/** px: a line of a row, and what a row has beside its lines. */
const LINE = 18;
const ROW_BESIDE_LINES = 8;
const column = createColumnHelper<HoleRow>();

function columnsOf(axes: readonly number[], style: UnitStyle) {
  return [
    column.accessor('mark', { header: 'Hole', sortingFn: 'alphanumeric' }),
    column.accessor('diameter', { header: 'Ø', cell: (c) => length(c.getValue(), style) }),
    column.accessor('depth', {
      header: 'Depth',
      cell: (c) => (c.row.original.ends === 'through' ? 'through' : length(c.getValue(), style)),
    }),
    ...axes.map((k) =>
      column.accessor((row) => row.at[k], {
        id: AXES[k],
        header: AXES[k],
        cell: (c) => length(c.getValue(), style),
      }),
    ),
  ];
}

/** All holes of what is shown or picked, with where they are; a click picks one. */
export function HoleTable() {
  const ws = useWorkspace();
  const style = useUnits();
  const { unit } = style;
  const picked = useStore(ws.selection, (s) => s.picked);
  const [scope, setScope] = useState<HoleScope>('shown');
  const [sorting, setSorting] = useState<SortingState>([]);
  const { rows, axes } = useDerived(holeTable, scope);
  const columns = useMemo(() => columnsOf(axes, style), [axes, style]);

  const table = useReactTable({
    data: rows,
    columns,
    state: { sorting },
    onSortingChange: setSorting,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  const whole = useRef<HTMLElement>(null);
  const width = useWidth(whole);
  const body = useRef<HTMLDivElement>(null);
  const sorted = table.getRowModel().rows;
  const types = useMemo(() => summaryOf(rows, style), [rows, style]);
  const {
    grid,
    lines,
    cell: place,
  } = useMemo(() => gridOf(rows, axes, style, width), [rows, axes, style, width]);
  const high = lines * LINE + ROW_BESIDE_LINES;
  const virtual = useVirtualizer({
    count: sorted.length,
    getScrollElement: () => body.current,
    estimateSize: () => high,
    overscan: 8,
  });
  useEffect(() => virtual.measure(), [virtual, high]);
  return (
    <section ref={whole} aria-label="Holes" className="flex min-h-0 flex-1 flex-col px-3 pt-2">
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
          {scope === 'picked' && !picked.length
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
            {types.map((t) => (
              <li key={t.type} className="border-b border-line py-0.5 last:border-0">
                <span className="figures font-medium">
                  {t.type} {t.count} × {t.text}
                </span>
                {t.likely && <span className="block text-soft">likely a {t.likely}</span>}
              </li>
            ))}
          </ul>
          <p className="mt-2 flex text-[12.5px] text-soft">
            <span className="flex-1">
              {rows.length === 1 ? 'One hole' : `${rows.length} holes`}, {unit}
            </span>
            <button
              type="button"
              className="text-blue hover:underline"
              onClick={() =>
                saveCsv(
                  ws,
                  'holes',
                  csvOf(rows, { ...style, inches: 'decimal' }, (path) => shownName(ws, path)),
                )
              }
            >
              Save as CSV
            </button>
          </p>
          <div
            role="table"
            aria-label="Table of holes"
            aria-rowcount={rows.length}
            className="mt-1 flex min-h-40 flex-1 flex-col overflow-x-auto text-[12.5px]"
          >
            {table.getHeaderGroups().map((group) => (
              <div key={group.id} role="row" className="grid border-b border-border" style={grid}>
                {group.headers.map((h, i) => (
                  <span
                    key={h.id}
                    role="columnheader"
                    style={place(i)}
                    aria-sort={
                      h.column.getIsSorted() === 'asc'
                        ? 'ascending'
                        : h.column.getIsSorted() === 'desc'
                          ? 'descending'
                          : 'none'
                    }
                    className="text-right first:text-left"
                  >
                    <button
                      type="button"
                      className="min-h-6 w-full px-1 text-[length:inherit] font-medium text-soft [text-align:inherit] hover:bg-hover"
                      onClick={h.column.getToggleSortingHandler()}
                    >
                      {flexRender(h.column.columnDef.header, h.getContext())}
                      {{ asc: ' ↑', desc: ' ↓' }[h.column.getIsSorted() as string] ?? ''}
                    </button>
                  </span>
                ))}
              </div>
            ))}
            <div ref={body} className="min-h-0 flex-1 overflow-y-auto" style={{ minWidth: grid.minWidth }}>
              <div className="relative" style={{ height: virtual.getTotalSize() }}>
                {virtual.getVirtualItems().map((item) => {
                  const row = sorted[item.index];
                  const { component, face, steps } = row.original;
                  const pick = () => ws.selection.getState().pick([{ kind: 'face', component, index: face }]);
                  const on = picked.some(
                    (p) => p.kind === 'face' && p.component === component && p.index === face,
                  );
                  return (
                    <div
                      key={row.id}
                      role="row"
                      aria-selected={on}
                      title={steps || undefined}
                      className={`absolute inset-x-0 grid cursor-pointer content-center border-b border-line hover:bg-hover ${on ? 'text-magenta' : ''}`}
                      style={{ ...grid, height: item.size, transform: `translateY(${item.start}px)` }}
                      tabIndex={0}
                      onClick={pick}
                      onKeyDown={(e) => {
                        if (e.key === 'Enter' || e.key === ' ') pick();
                      }}
                    >
                      {row.getVisibleCells().map((cell, i) => (
                        <span
                          key={cell.id}
                          role="cell"
                          style={place(i)}
                          className="figures px-1 text-right text-[12px] first:text-left"
                        >
                          {flexRender(cell.column.columnDef.cell, cell.getContext())}
                        </span>
                      ))}
                    </div>
                  );
                })}
              </div>
            </div>
          </div>
        </>
      )}
    </section>
  );
}

/**
 * Columns as wide as their longest figures; where they do not fit beside one another, places
 * stand in a line of their own.
 */
function gridOf(rows: readonly HoleRow[], axes: readonly number[], style: UnitStyle, width: number) {
  const longest = (texts: readonly string[]) =>
    Math.max(0, ...new Set(texts.map((t) => t.length))) * DIGIT + BESIDE_DIGITS;
  const widths = [
    longest(['Hole', ...rows.map((r) => r.mark)]),
    longest(rows.map((r) => length(r.diameter, style))),
    longest(['through', ...rows.map((r) => length(r.depth, style))]),
    ...axes.map((k) => longest(rows.map((r) => length(r.at[k], style)))),
  ];
  const needed = widths.reduce((sum, w) => sum + w, 0);
  const folded = needed > width;
  const before = 3 - axes.length;
  const columns = folded
    ? [0, 1, 2].map((k) => Math.max(widths[k], k < before ? 0 : widths[k - before + 3]))
    : widths;
  return {
    lines: folded ? 2 : 1,
    grid: {
      gridTemplateColumns: columns.map((w) => `minmax(${w}px, 1fr)`).join(' '),
      minWidth: columns.reduce((sum, w) => sum + w, 0),
    },
    cell: (i: number) => (folded && i === 3 ? { gridColumnStart: before + 1 } : undefined),
  };
}

function summaryOf(rows: readonly HoleRow[], style: UnitStyle) {
  return [...new Set(rows.map((r) => r.type))].map((type) => {
    const all = rows.filter((r) => r.type === type);
    const { diameter, depth, ends, steps, likely } = all[0];
    const deep =
      ends === 'through' ? `through ${length(depth, style)}` : `${ends}, ${length(depth, style)} deep`;
    return {
      type,
      count: all.length,
      likely,
      text: [`Ø ${length(diameter, style)} ${deep}`, steps].filter(Boolean).join(', '),
    };
  });
}

/** Numbers that other programs read, to the precision that is set. */
function csvOf(rows: readonly HoleRow[], style: UnitStyle, nameOf: (path: string) => string): string[][] {
  const plain = (mm: number) =>
    length(mm, style)
      .replace(/\u2009/g, '')
      .replace('−', '-');
  return [
    [
      'Hole',
      'Component',
      `Diameter, ${style.unit}`,
      `Depth, ${style.unit}`,
      'Ends',
      'Steps',
      'Likely',
      ...AXES.map((a) => `${a}, ${style.unit}`),
    ],
    ...rows.map((r) => [
      r.mark,
      nameOf(r.component),
      plain(r.diameter),
      plain(r.depth),
      r.ends,
      r.steps,
      r.likely,
      ...r.at.map(plain),
    ]),
  ];
}
