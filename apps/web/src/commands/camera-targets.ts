import { fitLinked, fitView, FIT_MARGIN, homeOrientationOf, linkedView, mainOfLinked, pointAt, reachOfComponents, type Pane, type PartGeometry, type Mat4, type Support, type Vec3, type ViewCamera } from '@bathyscope/core';
import { litOfCut } from '../scene/cut-picks.ts';
import { placedPointsOf } from '../scene/placed-points.ts';
import { activePane, cameraStore } from '../stores/camera-store.ts';
import { componentsBelow, modelStore } from '../stores/model-store.ts';
import { preferenceStore } from '../stores/preference-store.ts';
import { isOfCut, type Picked } from '../stores/selection-store.ts';
import { visiblePaths } from './visibility-commands.ts';

function placedParts(paths: readonly string[]): { placement: Mat4; geometry: PartGeometry }[] {
  const { byPath, parts } = modelStore.getState();
  return paths.flatMap((path) => {
    const component = byPath.get(path);
    const part = component?.part === undefined ? undefined : parts.get(component.part);
    return component && part ? [{ placement: component.placement, geometry: part.geometry }] : [];
  });
}

const allPaths = (): string[] => modelStore.getState().components.map((c) => c.path);

/** What is on the screen after a fit: the visible components, or all when everything is hidden. */
export function shownReach(): Support {
  const visible = visiblePaths();
  return reachOfComponents(placedParts(visible.length ? visible : allPaths()));
}

/** The view with everything shown in it; for a main pane with linked ones, such that they hold everything too. */
export function fittedToShown(camera: ViewCamera, size: Pane = activePane().size): ViewCamera {
  const { panes, active } = cameraStore.getState();
  const linked = panes.flatMap((p) => (p.mode.kind === 'linked' ? [{ side: p.mode.side, size: p.size }] : []));
  const concerned = linked.length > 0 && size === panes[active].size && (active === 0 || panes[active].mode.kind === 'linked');
  if (!concerned) return fitView(camera, size, shownReach());
  const { mode } = panes[active];
  const scaleTo = size.height / panes[0].size.height;
  const main = mode.kind === 'linked' ? mainOfLinked(camera, mode.side, scaleTo) : camera;
  const fitted = fitLinked(main, panes[0].size, linked, shownReach());
  return mode.kind === 'linked' ? linkedView(fitted, mode.side, scaleTo) : fitted;
}

/** Where Home leads: the view set for this model, else isometric; framed to what is visible or to the whole model. */
export function homeView(pane: { camera: ViewCamera; size: Pane } = activePane()): ViewCamera {
  const { home, homeFramesVisible } = preferenceStore.getState();
  const { upAxis } = cameraStore.getState();
  const kept = home?.camera;
  const start: ViewCamera = kept ? { ...kept } : { ...pane.camera, orientation: homeOrientationOf(upAxis) };
  if (homeFramesVisible) return fittedToShown(start, pane.size);
  return kept ? start : fitView(start, pane.size, reachOfComponents(placedParts(allPaths())));
}

/** The placed geometry a picked thing is part of; undefined for assemblies. */
export function geometryOf(item: Picked): { placement: Mat4; geometry: PartGeometry } | undefined {
  return placedParts([item.component])[0];
}

/** Extra room around a fitted detail, so that its surroundings stay recognisable. */
const DETAIL_MARGIN = 0.25;

/** Points of a picked cut, in model space. */
function litOf(item: Picked): Vec3[] {
  const lit = litOfCut(item);
  const flat = lit ? (lit.triangles.length ? lit.triangles : lit.segments) : [];
  const points = Array.from({ length: flat.length / 3 }, (_, i) => pointAt(flat, i));
  return points.length || !item.point ? points : [item.point];
}

/** The view with the picked things in it. */
export function fittedToPicked(camera: ViewCamera, items: readonly Picked[]): ViewCamera {
  const { size } = activePane();
  const components = items.filter((i) => i.kind === 'component').flatMap((i) => componentsBelow(i.component));
  const whole = reachOfComponents(placedParts(components));
  const points = items.filter((i) => i.kind !== 'component').flatMap((item): Vec3[] => {
    if (isOfCut(item.kind)) return litOf(item);
    const placed = geometryOf(item);
    return placed ? placedPointsOf(item, placed.geometry, placed.placement) : [];
  });
  const onlyComponents = points.length === 0;
  const reach: Support = (d) => points.reduce((far, p) => Math.max(far, p[0] * d[0] + p[1] * d[1] + p[2] * d[2]), whole(d));
  return fitView(camera, size, reach, onlyComponents ? FIT_MARGIN * 2 : DETAIL_MARGIN);
}
