import { FIT_MARGIN, fitPoints, homeOrientation, zoomAt, type Vec3, type ViewCamera } from '@bathyscope/core';
import { Crosshair, House, Maximize, Scan, ZoomIn, ZoomOut } from 'lucide-react';
import { stopTurning, turnTo } from '../scene/camera-motion.ts';
import { outlinePoints, placedPointsOf } from '../scene/silhouette-points.ts';
import { cornersOf } from '../scene/scene-view.ts';
import { cameraStore, mainPane } from '../stores/camera-store.ts';
import { modelStore, componentsBelow } from '../stores/model-store.ts';
import type { Picked } from '../stores/selection-store.ts';
import { pointerStore } from '../stores/pointer-store.ts';
import type { Command } from './command.ts';
import { visiblePaths } from './visibility-commands.ts';

/** What is on the screen after a fit: the visible components, or all when everything is hidden. */
function shownPoints(): Vec3[] {
  const visible = visiblePaths();
  const paths = visible.length ? visible : modelStore.getState().components.map((c) => c.path);
  return outlinePoints(paths) ?? cornersOf(paths);
}

const fitted = (camera: ViewCamera, points: Vec3[], margin = FIT_MARGIN): ViewCamera => fitPoints(camera, mainPane().size, points, margin);

export function homeView(): ViewCamera {
  return fitted({ ...mainPane().camera, orientation: homeOrientation() }, shownPoints());
}

/** Points of the picked things, so that they can be fitted. */
function pickedPoints(items: readonly Picked[]): Vec3[] {
  const { byPath, parts } = modelStore.getState();
  return items.flatMap((item) => {
    if (item.kind === 'component') return cornersOf(componentsBelow(item.component));
    const component = byPath.get(item.component);
    const geometry = component?.part === undefined ? undefined : parts.get(component.part)?.geometry;
    if (!component || !geometry) return [];
    return placedPointsOf(item, geometry, component.placement);
  });
}

/** Extra room around a fitted detail, so that its surroundings stay recognisable. */
const DETAIL_MARGIN = 0.25;

function zoomBy(factor: number): void {
  stopTurning();
  const { camera, size } = mainPane();
  turnTo(zoomAt(camera, size, factor, size.width / 2, size.height / 2));
}

export const VIEW_COMMANDS: Command[] = [
  {
    id: 'home', name: 'Home', group: 'Views', icon: House, shortcut: '0', alsoKeys: ['Home'], searchWords: ['default view', 'isometric', 'reset view', 'start'],
    needs: 'nothing', menu: 'space', run: () => turnTo(homeView()),
  },
  {
    id: 'fit', name: 'Fit all', group: 'Views', icon: Maximize, shortcut: 'F', searchWords: ['zoom extents', 'zoom all', 'refit', 'show everything'],
    needs: 'nothing', menu: 'both', run: () => turnTo(fitted(mainPane().camera, shownPoints())),
  },
  {
    id: 'fit-picked', name: 'Fit picked', group: 'Views', icon: Scan, shortcut: 'Shift+F', searchWords: ['zoom to selection', 'frame'],
    needs: 'thing', menu: 'thing', run: (items) => turnTo(fitted(mainPane().camera, pickedPoints(items), DETAIL_MARGIN)),
  },
  { id: 'zoom-in', name: 'Zoom in', group: 'Views', icon: ZoomIn, shortcut: '+', alsoKeys: ['='], searchWords: ['nearer', 'larger'], needs: 'nothing', run: () => zoomBy(1.4) },
  { id: 'zoom-out', name: 'Zoom out', group: 'Views', icon: ZoomOut, shortcut: '-', searchWords: ['further', 'smaller'], needs: 'nothing', run: () => zoomBy(1 / 1.4) },
  {
    id: 'pivot', name: 'Pivot at cursor', group: 'Views', icon: Crosshair, shortcut: '.', searchWords: ['centre of rotation', 'rotation centre', 'orbit point'],
    needs: 'nothing', refusal: () => (pointerStore.getState().point ? null : 'Point at the model, then press “.” to turn about that point.'),
    run: () => cameraStore.getState().setPivot(pointerStore.getState().point!),
  },
];
