import { home, PLAIN_HOME, upAxis, type HomeSetting } from '@bathyscope/contracts/records';
import { keptAt } from '../keeping/records.ts';
import {
  pixelSizeAt,
  project,
  viewRight,
  viewUp,
  fitLinked,
  fitView,
  FIT_MARGIN,
  homeOrientationOf,
  linkedView,
  mainOfLinked,
  reachOfComponents,
  type Pane,
  type Support,
  type UpAxis,
  type ViewCamera,
} from '@bathyscope/core/camera';
import type { PartGeometry } from '@bathyscope/core/geometry';
import {
  addScaled,
  boxCentre,
  EMPTY_BOX,
  uniteBoxes,
  pointAt,
  type Mat4,
  type Vec3,
} from '@bathyscope/core/math';
import { litOfCut } from '../picking/cut-picks.ts';
import { datumOf } from '../picking/datums.ts';
import { pointOfPick } from '../picking/snap-picks.ts';
import { placedPointsOf } from '../picking/placed-points.ts';
import { isOfCut, type Picked } from '../../state/selection-store.ts';
import type { Workspace } from '../workspace.ts';
import { activePane } from './panes.ts';
import { boxOf, componentsBelow } from '../shown/components.ts';
import { visiblePaths } from '../shown/shown.ts';

function placedParts(ws: Workspace, paths: readonly string[]): { placement: Mat4; geometry: PartGeometry }[] {
  const { byPath, parts } = ws.model.getState();
  return paths.flatMap((path) => {
    const component = byPath.get(path);
    const part = component?.part === undefined ? undefined : parts.get(component.part);
    return component && part ? [{ placement: component.placement, geometry: part.geometry }] : [];
  });
}

const allPaths = (ws: Workspace): string[] => ws.model.getState().components.map((c) => c.path);

/** What is on the screen after a fit: the visible components, or all when everything is hidden. */
export function shownReach(ws: Workspace): Support {
  const visible = visiblePaths(ws);
  return reachOfComponents(placedParts(ws, visible.length ? visible : allPaths(ws)));
}

/**
 * The view with everything shown in it; for a main pane with linked ones, such that they hold everything too.
 */
export function fittedToShown(
  ws: Workspace,
  camera: ViewCamera,
  size: Pane = activePane(ws).size,
): ViewCamera {
  const { panes, active } = ws.camera.getState();
  const linked = panes.flatMap((p) =>
    p.mode.kind === 'linked' ? [{ side: p.mode.side, size: p.size }] : [],
  );
  const concerned =
    linked.length > 0 &&
    size === panes[active].size &&
    (active === 0 || panes[active].mode.kind === 'linked');
  if (!concerned) return fitView(camera, size, shownReach(ws));
  const { mode } = panes[active];
  const scaleTo = size.height / panes[0].size.height;
  const main = mode.kind === 'linked' ? mainOfLinked(camera, mode.side, scaleTo) : camera;
  const fitted = fitLinked(main, panes[0].size, linked, shownReach(ws));
  return mode.kind === 'linked' ? linkedView(fitted, mode.side, scaleTo) : fitted;
}

/** Which axis of the model points up. */
export const upAxisOf = (ws: Workspace): UpAxis => keptAt(ws, upAxis, '')?.axis ?? 'z';

/** Where Home leads, as it was set. */
const homeOf = (ws: Workspace): HomeSetting => keptAt(ws, home, '') ?? PLAIN_HOME;

/**
 * Where Home leads: the view set for this model, else isometric; framed to what is
 * visible or to the whole model.
 */
export function homeView(
  ws: Workspace,
  pane: { camera: ViewCamera; size: Pane } = activePane(ws),
): ViewCamera {
  const { view, framesVisible } = homeOf(ws);
  const { upAxis } = ws.camera.getState();
  const set = view?.camera;
  const start: ViewCamera = set ? { ...set } : { ...pane.camera, orientation: homeOrientationOf(upAxis) };
  if (framesVisible) return fittedToShown(ws, start, pane.size);
  return set ? start : fitView(start, pane.size, reachOfComponents(placedParts(ws, allPaths(ws))));
}

/** The placed geometry a picked thing is part of; undefined for assemblies. */
export function geometryOf(
  ws: Workspace,
  item: Picked,
): { placement: Mat4; geometry: PartGeometry } | undefined {
  return placedParts(ws, [item.component])[0];
}

/** Extra room around a fitted detail, so that its surroundings stay recognisable. */
const DETAIL_MARGIN = 0.25;

/** Points of a picked cut, in model space. */
function litOf(ws: Workspace, item: Picked): Vec3[] {
  const lit = litOfCut(ws, item);
  const flat = lit ? (lit.triangles.length ? lit.triangles : lit.segments) : [];
  const points = Array.from({ length: flat.length / 3 }, (_, i) => pointAt(flat, i));
  return points.length || !item.point ? points : [item.point];
}

/** What has no piece of a part that is drawn: a point, or reference geometry. */
const isLoose = (item: Picked): boolean => item.kind === 'point' || item.datum !== undefined;

function pointsOfLoose(ws: Workspace, item: Picked): Vec3[] {
  const at = item.datum === undefined ? pointOfPick(ws, item)?.at : datumOf(ws, item.datum)?.origin;
  return at ? [at] : [];
}

/**
 * Points of picked things that tell where they are and how far they reach, model space; of components none.
 */
export function pointsOfPicked(ws: Workspace, items: readonly Picked[]): Vec3[] {
  return items
    .filter((i) => i.kind !== 'component')
    .flatMap((item): Vec3[] => {
      if (isOfCut(item.kind)) return litOf(ws, item);
      if (isLoose(item)) return pointsOfLoose(ws, item);
      const placed = geometryOf(ws, item);
      return placed ? placedPointsOf(item, placed.geometry, placed.placement) : [];
    });
}

/** The view with the picked things in it. */
export function fittedToPicked(ws: Workspace, camera: ViewCamera, items: readonly Picked[]): ViewCamera {
  const { size } = activePane(ws);
  const components = items
    .filter((i) => i.kind === 'component')
    .flatMap((i) => componentsBelow(ws, i.component));
  const whole = reachOfComponents(placedParts(ws, components));
  const points = pointsOfPicked(ws, items);
  const onlyComponents = points.length === 0;
  const reach: Support = (d) =>
    points.reduce((far, p) => Math.max(far, p[0] * d[0] + p[1] * d[1] + p[2] * d[2]), whole(d));
  return fitView(camera, size, reach, onlyComponents ? FIT_MARGIN * 2 : DETAIL_MARGIN);
}

/** Middle of the box of what is picked. */
export function pickedPoint(ws: Workspace): Vec3 | null {
  const points = ws.selection.getState().picked.flatMap((item) => {
    if (item.kind === 'component') return [boxCentre(boxOf(ws, componentsBelow(ws, item.component)))];
    if (isOfCut(item.kind)) return item.point ? [item.point] : [];
    if (isLoose(item)) return pointsOfLoose(ws, item);
    const placed = geometryOf(ws, item);
    return placed ? placedPointsOf(item, placed.geometry, placed.placement) : [];
  });
  return points.length
    ? boxCentre(points.reduce((b, p) => uniteBoxes(b, { min: p, max: p }), EMPTY_BOX))
    : null;
}

/** The view with a point brought to the middle of its pane. */
export function centredOn(ws: Workspace, point: Vec3): ViewCamera {
  const { camera, size } = activePane(ws);
  const at = project(camera, size, point);
  const scale = pixelSizeAt(camera, size, point);
  const across = addScaled(camera.target, viewRight(camera), (at.x - size.width / 2) * scale);
  return { ...camera, target: addScaled(across, viewUp(camera), (size.height / 2 - at.y) * scale) };
}
