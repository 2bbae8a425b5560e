import { type Vec3 } from '../math/vec3.ts';
import type { LineKind } from './drawing.ts';

/** A chain of points on an edge or outline, in view coordinates: right, up, towards the eye. */
export interface ViewChain {
  points: Vec3[];
  kind: 'visible' | 'smooth' | 'hatch';
  /** Set for circles and arcs that are seen face on. */
  circle?: { centre: Vec3; radius: number };
}

/** A stretch of a chain with one visibility; points in the drawing's plane. */
export interface Stretch {
  points: (readonly [number, number])[];
  kind: LineKind;
  circle?: { centre: readonly [number, number]; radius: number };
}
