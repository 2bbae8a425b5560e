/** A point of a plane, in its axes. */
export type Point2 = readonly [x: number, y: number];
