import { HOLE_FIGURES } from '@bathyscope/core/facts';
import { formatQuantity, type UnitStyle } from '@bathyscope/core/units';
import type { HoleRow } from '../workspace/measuring/hole-table.ts';

const AXES = ['X', 'Y', 'Z'];

/** Holes as rows of a table that other programs read, to the precision that is set. */
export function holeList(
  rows: readonly HoleRow[],
  style: UnitStyle,
  nameOf: (path: string) => string,
): string[][] {
  const decimal = { ...style, inches: 'decimal' as const };
  const plain = (mm: number) =>
    formatQuantity(mm, 'length', decimal)
      .text.replace(/\u2009/g, '')
      .replace('−', '-');
  const headed = (label: string) => `${label}, ${style.unit}`;
  return [
    [
      'Hole',
      'Component',
      ...HOLE_FIGURES.map(({ label, quantity }) => (quantity === 'length' ? headed(label) : label)),
      ...AXES.map(headed),
    ],
    ...rows.map(({ mark, component, hole, at }) => [
      mark,
      nameOf(component),
      ...HOLE_FIGURES.map(({ of }) => {
        const value = of(hole, style.unit);
        return value?.kind === 'length' ? plain(value.value) : String(value?.value ?? '');
      }),
      ...at.map(plain),
    ]),
  ];
}
