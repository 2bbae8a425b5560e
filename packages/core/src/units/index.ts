export {
  fixed,
  formatQuantity,
  formatWithin,
  significant,
  LENGTH_DECIMALS,
  LENGTH_UNITS,
  shortLength,
  type FormattedQuantity,
  type LengthUnit,
  type QuantityKind,
  MILLIMETRES,
} from './format-quantity.ts';
export {
  ANGLE_STYLES,
  decimalsOf,
  INCH_STYLES,
  MOST_PRECISION,
  PLAIN_PRECISION,
  plainStyle,
  type UnitStyle,
} from './unit-style.ts';
export { bareUnit, readQuantity, type FieldKind, type ReadQuantity } from './read-quantity.ts';
export type { PlainFigure } from './plain-units.ts';
