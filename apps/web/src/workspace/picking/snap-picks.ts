import type { Accuracy, PartGeometry } from '@bathyscope/core/geometry';
import { invertAffine, transformPoint, type Mat4, type Point2, type Vec3 } from '@bathyscope/core/math';
import type { Snap } from '@bathyscope/core/references';
import {
  endOf,
  fromPlane,
  nearestOnPolyline,
  pointAtShare,
  pointsAlong,
  startOf,
  toPlane,
  type PlaneCurve,
  type PlaneFrame,
} from '@bathyscope/core/section';
import { crossingOfEdges, derivedPoints, pointOnEdge, pointOnFace } from '@bathyscope/core/snaps';
import { SAME_POSITION } from '@bathyscope/core/tolerances';
import type { Picked } from '../../state/selection-store.ts';
import { cutOfPick } from './cut-picks.ts';
import { bestCut, chordOf, curvesOf } from '../cutting/cuts.ts';
import type { Workspace } from '../workspace.ts';

/* Points as picks: where they are, computed anew from what they are points of. */

export interface PointNow {
  /** Model space, mm. */
  at: Vec3;
  accuracy: Accuracy;
}

/** Where a picked point, or the origin, is now; null when what it belongs to is not there any more. */
export function pointOfPick(ws: Workspace, item: Picked): PointNow | null {
  if (item.datum === 'origin') return { at: [0, 0, 0], accuracy: { kind: 'exact' } };
  const { snap } = item;
  if (!snap) return null;
  if (snap.on === 'outline' || snap.on === 'cap') return pointOfCut(ws, item, snap);
  const placed = placedOf(ws, item.component);
  return placed && pointOfPart(ws, item, snap, placed);
}

interface Placed {
  geometry: PartGeometry;
  placement: Mat4;
}

function placedOf(ws: Workspace, component: string): Placed | null {
  const { byPath, parts } = ws.model.getState();
  const occurrence = byPath.get(component);
  const geometry = parts.get(occurrence?.part ?? -1)?.geometry;
  return occurrence && geometry ? { geometry, placement: occurrence.placement } : null;
}

function pointOfPart(ws: Workspace, { index, point }: Picked, snap: Snap, placed: Placed): PointNow | null {
  const { geometry, placement } = placed;
  const inModel = ({ at, accuracy }: PointNow): PointNow => ({ at: transformPoint(placement, at), accuracy });
  if (snap.kind === 'intersection') {
    const other = snap.with && placedOf(ws, snap.with.component);
    return other && point ? crossingOfEdges(placed, index, other, snap.with!.index, point) : null;
  }
  if (snap.kind !== 'on edge' && snap.kind !== 'on face') {
    const found = derivedPoints(geometry, index).find((p) => p.kind === snap.kind && p.which === snap.which);
    return found ? inModel(found) : null;
  }
  if (!point) return null;
  const near = transformPoint(invertAffine(placement), point);
  return inModel(
    snap.kind === 'on edge' ? pointOnEdge(geometry, index, near) : pointOnFace(geometry, index, near),
  );
}

function pointOfCut(ws: Workspace, item: Picked, snap: Snap): PointNow | null {
  const found = cutOfPick(ws, { ...item, kind: snap.on === 'cap' ? 'cap' : 'outline' });
  if (!found) return null;
  const {
    plane: { frame, plane },
    cut,
  } = found;
  const exact: Accuracy = { kind: 'exact' };
  if (snap.on === 'cap') return item.point ? { at: item.point, accuracy: exact } : null;
  const curve = curvesOf(ws, plane.id, cut)[item.index];
  const accuracy: Accuracy = bestCut(ws, plane.id, cut).exact
    ? exact
    : { kind: 'recognised', deviation: chordOf(ws, cut.component) * cut.lean.most };
  if (snap.kind === 'on edge') {
    if (!curve || !item.point) return null;
    const { at, off } = onCurve(curve, toPlane(frame, item.point));
    return {
      at: fromPlane(frame, at),
      accuracy: off && accuracy.kind === 'exact' ? { kind: 'recognised', deviation: off } : accuracy,
    };
  }
  const at = curve && pointsOfCurve(curve, frame).find((p) => p.kind === snap.kind);
  return at ? { at: at.at, accuracy } : null;
}

/** rad. Ellipses are followed in such steps. */
const ALONG = Math.PI / 720;

/**
 * The point of an outline that is nearest to another, and how far it may be from the curve, mm:
 * on lines and arcs exact.
 */
function onCurve(curve: PlaneCurve, near: Point2): { at: Point2; off: number } {
  if (curve.shape === 'arc') {
    const [dx, dy] = [near[0] - curve.centre[0], near[1] - curve.centre[1]];
    const away = Math.hypot(dx, dy);
    if (away > 0)
      return {
        at: [curve.centre[0] + (dx * curve.radius) / away, curve.centre[1] + (dy * curve.radius) / away],
        off: 0,
      };
  }
  const at = nearestOnPolyline(pointsAlong(curve, ALONG), near);
  if (curve.shape === 'polyline') return { at, off: curve.tolerance };
  return { at, off: curve.shape === 'ellipse' ? Math.hypot(...curve.major) * (1 - Math.cos(ALONG / 2)) : 0 };
}

/**
 * The points that belong to an outline: the centre of an arc or ellipse, the midpoint of a line or an arc
 * that does not close.
 */
export function pointsOfCurve(
  curve: PlaneCurve,
  frame: PlaneFrame,
): { kind: 'centre' | 'midpoint'; at: Vec3 }[] {
  const place = (kind: 'centre' | 'midpoint', p: Point2) => ({ kind, at: fromPlane(frame, p) });
  const [start, end] = [startOf(curve), endOf(curve)];
  const closes = Math.hypot(end[0] - start[0], end[1] - start[1]) <= SAME_POSITION;
  return [
    ...(curve.shape === 'arc' || curve.shape === 'ellipse' ? [place('centre', curve.centre)] : []),
    ...(!closes && (curve.shape === 'line' || curve.shape === 'arc')
      ? [place('midpoint', pointAtShare(curve, 1 / 2))]
      : []),
  ];
}
