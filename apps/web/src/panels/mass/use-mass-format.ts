import { massText, unitOfFigure, type MassFigure } from '@bathyscope/core/mass';
import { formatQuantity, formatWithin } from '@bathyscope/core/units';
import { tableText } from './table-text.ts';
import { useUnits } from '../use-units.ts';

/** Figures of weighing as they are shown, in the unit and precision that are set. */
export interface MassFormat {
  /** With its unit. */
  length: (mm: number) => string;
  area: (mm2: number) => string;
  volume: (mm3: number) => string;
  /** The volume to the place of its bound, and that, where it has one; both with their unit. */
  volumeWithin: (mm3: number, within: number) => [volume: string, within?: string];
  /** A length, with its bound where the digits that are shown would be more than are known. */
  lengthWithin: (mm: number, within: number) => string;
  /** Without it, for several in a row. */
  plain: (mm: number) => string;
  /** A figure of what was weighed, all its values, and their unit. */
  figure: (figure: MassFigure) => { value: string; unit?: string };
  /** The unit of length. */
  unit: string;
}

const withUnit = ({ text, unit }: { text: string; unit: string }): string => `${text} ${unit}`;

/** mm: what is less does not change the digits that are usual. */
const LEAST_TOLD = 0.0005;

export function useMassFormat(): MassFormat {
  const unit = useUnits();
  return {
    length: (mm) => withUnit(formatQuantity(mm, 'length', unit)),
    area: (mm2) => withUnit(formatQuantity(mm2, 'area', unit)),
    volume: (mm3) => withUnit(formatQuantity(mm3, 'volume', unit)),
    volumeWithin: (mm3, within) => {
      if (!(within > 0)) return [withUnit(formatQuantity(mm3, 'volume', unit))];
      const said = formatWithin(mm3, within, 'volume', unit);
      return [withUnit(said), `${said.within} ${said.unit}`];
    },
    lengthWithin: (mm, within) => {
      if (within < LEAST_TOLD) return withUnit(formatQuantity(mm, 'length', unit));
      const said = formatWithin(mm, within, 'length', unit);
      return `${said.text} ± ${said.within} ${said.unit}`;
    },
    plain: (mm) => formatQuantity(mm, 'length', unit).text,
    figure: (figure) => {
      const values = figure.values.map(({ value }) => value);
      if (figure.quantity === 'inertia')
        return { value: tableText(values).join('  '), unit: unitOfFigure(figure) };
      if (figure.quantity === 'mass') return { value: values.map(massText).join('  ') };
      if (figure.quantity === 'count') return { value: values.join('  ') };
      const said = values.map((value) => formatQuantity(value, figure.quantity as 'length', unit));
      return { value: said.map(({ text }) => text).join('  '), unit: said[0].unit };
    },
    unit: unit.unit,
  };
}

export const degrees = (radians: number): string =>
  `${((radians * 180) / Math.PI).toFixed(2).replace('-', '−')} °`;
