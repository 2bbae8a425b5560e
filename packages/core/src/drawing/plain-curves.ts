import type { Point2 } from '../math/point2.ts';
import { FULL_TURN } from '../tolerances.ts';
import type { Drawing, LineKind } from './drawing.ts';

/** A drawing's curves by kind of entity, as exchange formats want them: degrees for angles. */
export interface PlainCurves {
  lines: { kind: LineKind; from: Point2; to: Point2 }[];
  circles: { kind: LineKind; centre: Point2; radius: number }[];
  arcs: { kind: LineKind; centre: Point2; radius: number; fromDegrees: number; toDegrees: number }[];
  polylines: { kind: LineKind; points: Point2[] }[];
}

/** Degrees in [0, 360), as exchange formats want angles. */
export const wholeTurnDegrees = (rad: number): number => ((((rad * 180) / Math.PI) % 360) + 360) % 360;

export function plainCurves({ curves }: Drawing): PlainCurves {
  const plain: PlainCurves = { lines: [], circles: [], arcs: [], polylines: [] };
  for (const c of curves) {
    if (c.shape === 'line') plain.lines.push({ kind: c.kind, from: c.from, to: c.to });
    else if (c.shape === 'polyline') plain.polylines.push({ kind: c.kind, points: c.points });
    else if (c.to - c.from > FULL_TURN)
      plain.circles.push({ kind: c.kind, centre: c.centre, radius: c.radius });
    else
      plain.arcs.push({
        kind: c.kind,
        centre: c.centre,
        radius: c.radius,
        fromDegrees: wholeTurnDegrees(c.from),
        toDegrees: wholeTurnDegrees(c.to),
      });
  }
  return plain;
}
