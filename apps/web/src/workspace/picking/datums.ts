import { nearSegment, project, type Pane, type ViewCamera } from '@bathyscope/core/camera';
import { addScaled, boxDiagonal, subtract, type Vec3 } from '@bathyscope/core/math';
import type { MeasuredShape } from '@bathyscope/core/measure';
import { drawnAxis, drawnPlane, FIXED_NAMES, type FixedReference } from '@bathyscope/core/references';
import type { Picked } from '../../state/selection-store.ts';
import { shownBox } from '../shown/shown.ts';
import type { Workspace } from '../workspace.ts';

/* Reference geometry as something that is picked and measured to: the origin, planes and axes. */

export type Datum = { name: string; origin: Vec3; own: boolean } & (
  { kind: 'origin' } | { kind: 'plane' | 'axis'; /** Unit: of a plane its normal. */ direction: Vec3 }
);

const AXES: Record<string, Vec3> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };
const NORMALS: Record<string, Vec3> = { xy: [0, 0, 1], xz: [0, 1, 0], yz: [1, 0, 0] };
const MIDDLE: Vec3 = [0, 0, 0];

/** A plane, an axis or the origin by its id; null when there is none. */
export function datumOf(ws: Workspace, id: string): Datum | null {
  const fixed = { name: FIXED_NAMES[id as FixedReference], origin: MIDDLE, own: false };
  if (id === 'origin') return { kind: 'origin', ...fixed };
  const [what, of] = id.split(' ');
  if (what === 'plane' && of in NORMALS) return { kind: 'plane', direction: NORMALS[of], ...fixed };
  if (what === 'axis' && of in AXES) return { kind: 'axis', direction: AXES[of], ...fixed };
  const { planes, axes } = ws.reference.getState();
  const plane = planes.find((p) => p.id === id);
  if (plane)
    return { kind: 'plane', name: plane.name, origin: plane.origin, direction: plane.normal, own: true };
  const axis = axes.find((a) => a.id === id);
  return axis
    ? { kind: 'axis', name: axis.name, origin: axis.origin, direction: axis.direction, own: true }
    : null;
}

export const nameOfDatum = (ws: Workspace, { datum }: Picked): string =>
  datumOf(ws, datum ?? '')?.name ?? 'lost reference';

/**
 * What it is for measuring; without end, so that the size of the other thing decides what counts as parallel.
 */
export function shapeOfDatum(ws: Workspace, id: string): MeasuredShape | null {
  const datum = datumOf(ws, id);
  if (!datum) return null;
  const { origin } = datum;
  const accuracy = { kind: 'exact' } as const;
  if (datum.kind === 'origin') return { kind: 'point', at: origin, accuracy, span: 0 };
  const span = boxDiagonal(shownBox(ws)) || 1;
  return datum.kind === 'plane'
    ? { kind: 'plane', origin, axis: datum.direction, bounds: false, accuracy, span }
    : { kind: 'line', origin, axis: datum.direction, ends: null, accuracy, span };
}

/** What is drawn of it, in model space: the outline of a plane, the line of an axis, the origin's point. */
export function drawnDatum(
  ws: Workspace,
  id: string,
): { lines: [Vec3, Vec3][]; corners: Vec3[]; point: Vec3 | null } | null {
  const datum = datumOf(ws, id);
  if (!datum) return null;
  if (datum.kind === 'origin') return { lines: [], corners: [], point: datum.origin };
  const box = shownBox(ws);
  if (datum.kind === 'axis')
    return {
      lines: [drawnAxis(datum.origin, datum.direction, boxDiagonal(box) || 1, datum.own)],
      corners: [],
      point: null,
    };
  const { corners } = drawnPlane(datum.origin, datum.direction, box);
  return {
    lines: corners.map((p, i): [Vec3, Vec3] => [p, corners[(i + 1) % corners.length]]),
    corners,
    point: null,
  };
}

/** What is lit of it, as of a cut. */
export function litOfDatum(
  ws: Workspace,
  id: string,
): { triangles: number[]; indices: number[]; segments: number[]; point: Vec3 | null } | null {
  const drawn = drawnDatum(ws, id);
  return (
    drawn && {
      triangles: drawn.corners.flat(),
      indices: drawn.corners.length ? [0, 1, 2, 0, 2, 3] : [],
      segments: drawn.lines.flat(2),
      point: drawn.point,
    }
  );
}

/** px, as for edges. */
const LINE_REACH = 6;
const ORIGIN_REACH = 9;

/** The shown reference geometry whose drawn line is under a pixel, with where; the origin first. */
export function datumAt(ws: Workspace, camera: ViewCamera, size: Pane, x: number, y: number): Picked | null {
  let best: { picked: Picked; away: number } | null = null;
  const { shown } = ws.reference.getState();
  for (const id of shown) {
    const drawn = drawnDatum(ws, id);
    if (!drawn) continue;
    const found = drawn.point
      ? nearPoint(drawn.point, camera, size, x, y)
      : nearLines(drawn.lines, camera, size, x, y);
    if (!found || (best && found.away >= best.away)) continue;
    best = {
      picked: { kind: 'datum', component: '', index: 0, datum: id, point: found.point },
      away: found.away,
    };
  }
  return best?.picked ?? null;
}

interface Near {
  point: Vec3;
  away: number;
}

function nearPoint(point: Vec3, camera: ViewCamera, size: Pane, x: number, y: number): Near | null {
  const s = project(camera, size, point);
  const away = Math.hypot(s.x - x, s.y - y);
  // It is a spot on everything that runs through it.
  return !s.behind && away <= ORIGIN_REACH ? { point, away: 0 } : null;
}

function nearLines(
  lines: readonly [Vec3, Vec3][],
  camera: ViewCamera,
  size: Pane,
  x: number,
  y: number,
): Near | null {
  let best: Near | null = null;
  for (const [from, to] of lines) {
    const [a, b] = [project(camera, size, from), project(camera, size, to)];
    if (a.behind || b.behind) continue;
    const { share, away } = nearSegment(a, b, x, y);
    if (away > (best?.away ?? LINE_REACH)) continue;
    best = { away, point: addScaled(from, subtract(to, from), share) };
  }
  return best;
}
