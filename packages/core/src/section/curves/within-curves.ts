import type { Point2 } from '../../math/point2.ts';
import { endOf, monotonePieces, pointAtShare, startOf, type PlaneCurve } from './plane-curves.ts';

/** Halvings until the place of a crossing on a monotone piece is known to the last digit. */
const HALVINGS = 60;

/**
 * Whether a point lies within a closed loop of curves, by the crossings of a ray to the right. Each curve is
 * taken as what it is, in pieces along which y only rises or falls, and neighbours share their end, so that
 * the answer holds however near the point is to the curves: within a ring it does not
 * matter how thin the ring is.
 */
export function isWithinCurves([x, y]: Point2, loop: readonly PlaneCurve[]): boolean {
  let inside = false;
  loop.forEach((curve, i) => {
    // What a curve ends at is where its neighbour begins, though the two differ by what ends may be apart.
    const end = startOf(loop[(i + 1) % loop.length]);
    const pieces = monotonePieces(curve);
    pieces.forEach((piece, k) => {
      const [y0, y1] = [startOf(piece)[1], k === pieces.length - 1 ? end[1] : endOf(piece)[1]];
      if (y0 > y !== y1 > y && x < crossingX(piece, y)) inside = !inside;
    });
  });
  return inside;
}

/** Where a piece along which y only rises or falls has a given y. */
function crossingX(piece: PlaneCurve, y: number): number {
  const [from, to] = [startOf(piece), endOf(piece)];
  if (piece.shape === 'line')
    return to[1] === from[1] ? from[0] : from[0] + ((to[0] - from[0]) * (y - from[1])) / (to[1] - from[1]);
  let [low, high] = [0, 1];
  const rises = to[1] > from[1];
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (low + high) / 2;
    if (pointAtShare(piece, middle)[1] < y === rises) low = middle;
    else high = middle;
  }
  return pointAtShare(piece, (low + high) / 2)[0];
}
