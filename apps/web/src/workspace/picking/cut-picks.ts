import { dot, type Vec3 } from '@bathyscope/core/math';
import {
  fillLoops,
  fromPlane,
  nearestOnPolyline,
  pointsAlong,
  startOf,
  toPlane,
  type ComponentCut,
} from '@bathyscope/core/section';
import { type PlaneCut } from '../../state/cut-store.ts';
import { type Picked } from '../../state/selection-store.ts';
import type { Workspace } from '../workspace.ts';
import { curvesOf } from '../cutting/cuts.ts';

/** The cut that a picked face, outline or corner belongs to. */
export function cutOfPick(ws: Workspace, item: Picked): { plane: PlaneCut; cut: ComponentCut } | null {
  const plane = ws.cut.getState().results.find((m) => m.plane.id === item.plane);
  const index = ws.model.getState().components.findIndex((c) => c.path === item.component);
  const cut = plane?.cuts.find((c) => c.component === index);
  return plane && cut ? { plane, cut } : null;
}

/** mm: an outline further from where it was picked is another one. */
const SAME_PLACE = 0.05;

/** Picked cuts as they are numbered now: each outline and corner is found again by its place, or gone. */
export function foundAgain(ws: Workspace, picked: readonly Picked[]): Picked[] {
  return picked.flatMap((item) => {
    if (item.plane === undefined) return [item];
    const found = cutOfPick(ws, item);
    if (!found || !item.point) return [];
    if (item.kind === 'cap' || item.snap?.on === 'cap') return [item];
    const {
      plane: { plane, frame },
      cut,
    } = found;
    const at = toPlane(frame, item.point);
    const away = curvesOf(ws, plane.id, cut).map((c) => {
      if (item.snap?.kind === 'centre')
        return c.shape === 'arc' || c.shape === 'ellipse'
          ? Math.hypot(c.centre[0] - at[0], c.centre[1] - at[1])
          : Infinity;
      const near = item.kind === 'corner' ? startOf(c) : nearestOnPolyline(pointsAlong(c), at);
      return Math.hypot(
        near[0] - at[0],
        near[1] - at[1],
        dot(item.point!, found.plane.cut.normal) - found.plane.cut.constant,
      );
    });
    const index = away.indexOf(Math.min(...away));
    return away[index] <= SAME_PLACE ? [{ ...item, index }] : [];
  });
}

/**
 * What is lit of a picked face, outline or corner of a cut, in model space; null when
 * it is not there any more.
 */
export function litOfCut(
  ws: Workspace,
  item: Picked,
): { triangles: number[]; indices: number[]; segments: number[]; point: Vec3 | null } | null {
  const found = cutOfPick(ws, item);
  if (!found) return null;
  const {
    plane: { frame, plane },
    cut,
  } = found;
  const along = (points: readonly (readonly [number, number])[]) =>
    points.slice(1).flatMap((p, i) => [...fromPlane(frame, points[i]), ...fromPlane(frame, p)]);
  const curves = curvesOf(ws, plane.id, cut);
  if (item.kind === 'corner') return { triangles: [], indices: [], segments: [], point: item.point ?? null };
  if (item.kind === 'outline')
    return {
      triangles: [],
      indices: [],
      point: null,
      segments: curves[item.index] ? along(pointsAlong(curves[item.index])) : [],
    };
  const { positions, indices } = fillLoops(cut.loops);
  const triangles: number[] = [];
  for (let i = 0; i < positions.length; i += 2)
    triangles.push(...fromPlane(frame, [positions[i], positions[i + 1]]));
  return { triangles, indices, point: null, segments: curves.flatMap((c) => along(pointsAlong(c))) };
}
