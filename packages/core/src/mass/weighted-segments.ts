/**
 * Upright line segments that each stand for an area across them: x, y, z from, z to, and the area; where that
 * is below 0 they are taken off. mm, mm²
 */
export type WeightedSegments = Float64Array;

/** Numbers of each. */
export const SEGMENT_SIZE = 5;
