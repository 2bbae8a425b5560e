/** Thin upright pieces of volume: x, y, z from, z to, and the area across; of an area below 0 they are taken off. mm, mm² */
export type Needles = Float64Array;

/** Numbers of each. */
export const NEEDLE = 5;
