/** Units the interface shows; inside everything is millimetres and radians. */
export type LengthUnit = 'mm' | 'cm' | 'm' | 'in';

export const LENGTH_UNITS: readonly LengthUnit[] = ['mm', 'cm', 'm', 'in'];

/** Millimetres in one unit: SI prefixes; the international inch of 1959, exactly 25.4 mm. */
export const MILLIMETRES: Record<LengthUnit, number> = { mm: 1, cm: 10, m: 1000, in: 25.4 };

/** Decimals at which a length shows micrometres, the finest a workshop drawing states. */
export const LENGTH_DECIMALS: Record<LengthUnit, number> = { mm: 3, cm: 4, m: 6, in: 4 };
