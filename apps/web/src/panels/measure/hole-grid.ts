import { HOLE_FIGURES, valueText, type HoleFigure } from '@bathyscope/core/facts';
import { formatQuantity, type UnitStyle } from '@bathyscope/core/units';
import type { HoleRow } from '../../workspace/measuring/hole-table.ts';

/** px that a figure takes beside its digits, and each of those. */
const BESIDE_DIGITS = 9;
const DIGIT = 7.3;

export const HOLE_AXES = ['X', 'Y', 'Z'];

export interface HoleColumn {
  id: string;
  head: string;
  text: (row: HoleRow) => string;
  /** What it is sorted by. */
  by: (row: HoleRow) => string | number;
}

const length = (mm: number, style: UnitStyle): string => formatQuantity(mm, 'length', style).text;

/** The columns of a narrow table: mark, figures that have a short name, and the places. */
export const holeColumns = (axes: readonly number[], style: UnitStyle): HoleColumn[] => [
  { id: 'mark', head: 'Hole', text: (row) => row.mark, by: (row) => row.mark },
  ...HOLE_FIGURES.flatMap((f) => (f.short ? figureColumn(f, f.short, style) : [])),
  ...axes.map((k) => ({
    id: HOLE_AXES[k],
    head: HOLE_AXES[k],
    text: (row: HoleRow) => length(row.at[k], style),
    by: (row: HoleRow) => row.at[k],
  })),
];

function figureColumn({ label, of, instead }: HoleFigure, head: string, style: UnitStyle): HoleColumn {
  return {
    id: label,
    head,
    text: ({ hole }) => {
      const value = of(hole, style.unit);
      return instead?.(hole) ?? (value ? valueText(value, style).text : '');
    },
    by: ({ hole }) => {
      const value = of(hole, style.unit)?.value;
      return typeof value === 'number' ? value : String(value ?? '');
    },
  };
}

/**
 * Columns as wide as their longest figures; where they do not fit beside one another, places stand in a line
 * of their own, under the last of the columns before them.
 * @param width px that there are
 */
export function holeGrid(
  columns: readonly HoleColumn[],
  places: number,
  rows: readonly HoleRow[],
  width: number,
) {
  const widths = columns.map(({ head, text }) => {
    const longest = rows.reduce((most, row) => Math.max(most, text(row).length), head.length);
    return longest * DIGIT + BESIDE_DIGITS;
  });
  const folded = widths.reduce((sum, w) => sum + w, 0) > width;
  const first = columns.length - places;
  const before = first - places;
  const tracks = folded
    ? widths.slice(0, first).map((w, k) => Math.max(w, k < before ? 0 : widths[k - before + first]))
    : widths;
  return {
    lines: folded ? 2 : 1,
    grid: {
      gridTemplateColumns: tracks.map((w) => `minmax(${w}px, 1fr)`).join(' '),
      minWidth: tracks.reduce((sum, w) => sum + w, 0),
    },
    cell: (i: number) => (folded && i === first ? { gridColumnStart: before + 1 } : undefined),
  };
}
