/** The units that programs are told figures in. */
export const PLAIN_UNITS = {
  length: 'mm',
  area: 'mm²',
  volume: 'mm³',
  'second moment': 'mm⁴',
  angle: 'rad',
  mass: 'kg',
  inertia: 'kg·mm²',
  count: '',
  ratio: '',
} as const;

/** One value for programs; texts have no unit. */
export interface PlainFigure {
  name: string;
  value: number | string;
  unit: string;
}
