import type { Point2 } from '@bathyscope/core/math';
import {
  curveLength,
  endOf,
  fromPlane,
  nearestOnPolyline,
  pointsAlong,
  startOf,
  type PlaneCurve,
} from '@bathyscope/core/section';
import { FULL_TURN } from '@bathyscope/core/tolerances';
import type { PlaneCut } from '../../state/cut-store.ts';
import type { Picked } from '../../state/selection-store.ts';

/* What is picked on the drawing of a cut. */

/** px */
const CORNER_REACH = 9;
const OUTLINE_REACH = 7;

/** One component's outlines on the drawing, numbered as picks count them. */
export interface FlatLayer {
  path: string;
  loops: readonly PlaneCurve[][];
}

const goesRound = (curve: PlaneCurve): boolean =>
  curve.shape === 'arc' && Math.abs(curve.to - curve.from) > FULL_TURN;

/**
 * The corner or outline nearest to a point of the drawing, within reach; corners win over the outlines that
 * meet there. @param mm of the plane for one px
 */
export function pickOnFlat(
  layers: readonly FlatLayer[],
  { plane, frame }: PlaneCut,
  p: Point2,
  mm: number,
): Picked | null {
  let [best, away]: [Picked | null, number] = [null, Infinity];
  const offer = (item: Picked, distance: number) => {
    if (distance < away) [best, away] = [item, distance];
  };
  for (const layer of layers)
    layer.loops.flat().forEach((curve, index) => {
      const of = { component: layer.path, index, plane: plane.id };
      const start = startOf(curve);
      const toStart = Math.hypot(start[0] - p[0], start[1] - p[1]) / mm;
      if (!goesRound(curve) && toStart < CORNER_REACH)
        offer({ ...of, kind: 'corner', point: fromPlane(frame, start) }, toStart - OUTLINE_REACH);
      const near = nearestOnPolyline(pointsAlong(curve), p);
      const toCurve = Math.hypot(near[0] - p[0], near[1] - p[1]) / mm;
      if (toCurve < OUTLINE_REACH) offer({ ...of, kind: 'outline', point: fromPlane(frame, near) }, toCurve);
    });
  return best;
}

/** What a pick on the drawing is, in a word and a figure. @param q a length as text */
export function nameOnFlat(kind: Picked['kind'], curve: PlaneCurve, q: (mm: number) => string): string {
  if (kind === 'corner') return 'Corner';
  if (curve.shape === 'arc')
    return goesRound(curve) ? `Circle Ø${q(2 * curve.radius)}` : `Arc R${q(curve.radius)}`;
  if (curve.shape !== 'line') return `Curve ${q(curveLength(curve))}`;
  const [from, to] = [startOf(curve), endOf(curve)];
  return `Line ${q(Math.hypot(to[0] - from[0], to[1] - from[1]))}`;
}
