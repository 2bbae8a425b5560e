import {
  nearestOnScreen,
  pixelSizeAt,
  project,
  type Pane,
  type ScreenComponent,
  type ViewCamera,
} from '@bathyscope/core/camera';
import { type Vec3, subtract } from '@bathyscope/core/math';
import {
  boundsInView,
  boxesOnScreen,
  gridFromMiddle,
  PickScene,
  type EdgeReach,
  type PickHit,
  type PickOptions,
} from '@bathyscope/core/picking';
import type { Snap } from '@bathyscope/core/references';
import { isBefore, isLeftWhole, pickCut } from '@bathyscope/core/section';
import { snapPoints, type SnapHit } from '@bathyscope/core/snaps';
import type { Component } from '../../state/model-store.ts';
import type { PaneState } from '../../state/camera-store.ts';
import { isOfCut, samePick, type Picked } from '../../state/selection-store.ts';
import { boxOfCut, curvesOf } from '../cutting/cuts.ts';
import { cutOfPick } from './cut-picks.ts';
import { datumAt } from './datums.ts';
import { derived } from '../derived/derived.ts';
import { activePane, paneAt } from '../view/panes.ts';
import { samplePoints, storedPlacement } from './placed-points.ts';
import { cutNow, isUncut } from '../cutting/section-now.ts';
import { isGhost, isShown } from '../shown/shown.ts';
import { pointsOfCurve } from './snap-picks.ts';
import { styleOfPane } from '../view/styles.ts';
import type { Workspace } from '../workspace.ts';

/*
 * What is under a pixel of the canvas, in whichever pane that is: from the model and the state, nothing is
 * asked of the graphics card.
 */

/** The model prepared for picking. */
interface PickIndex {
  scene: PickScene;
  onScreen: readonly ScreenComponent[];
}

const pickIndex = derived('the model prepared for picking', (ws): PickIndex => {
  const { components, parts } = ws.model.getState();
  return {
    scene: new PickScene(
      components,
      new Map([...parts].map(([i, p]) => [i, p.geometry])),
      new Map([...parts].map(([i, p]) => [i, p.bvh])),
    ),
    onScreen: components.map(({ part, placement }) => {
      const { geometry, bvh } = parts.get(part)!;
      const { min, max } = geometry.box;
      const box = { min: subtract(min, geometry.origin), max: subtract(max, geometry.origin) };
      return { placement: storedPlacement(placement, geometry.origin), box, bvh };
    }),
  };
});

const indexOf = (ws: Workspace): PickIndex => ws.derived.of(pickIndex);

/** Components as they are tested on the screen, in the model's order. */
export const placedMeshes = (ws: Workspace): readonly ScreenComponent[] => indexOf(ws).onScreen;

type Kinds = Record<'face' | 'edge' | 'vertex', boolean>;
const FACES: Kinds = { face: true, edge: false, vertex: false };

/** A thing where it is seen, px of its pane. */
export interface Placed {
  item: Picked;
  x: number;
  y: number;
}

const componentsOf = (ws: Workspace): readonly Component[] => ws.model.getState().components;

const isVisible = (ws: Workspace, component: number): boolean =>
  isShown(ws, componentsOf(ws)[component].path);

/** Ghosts do not hide what is behind them, unless they are picked themselves. */
function isSolid(ws: Workspace, component: number): boolean {
  const { path } = componentsOf(ws)[component];
  return (
    isShown(ws, path) &&
    (!isGhost(ws, path) || ws.selection.getState().picked.some((p) => p.component === path))
  );
}

function optionsOf(ws: Workspace, pane: string, pickable: typeof isVisible = isVisible): PickOptions {
  const { whole } = ws.cut.getState();
  return {
    pickable: (i) => pickable(ws, i),
    cut: cutNow(ws, pane),
    uncut: (i) => whole.has(componentsOf(ws)[i].path),
  };
}

/** What is solid first; a ghost is picked where nothing else is. */
function solidFirst<T>(ws: Workspace, pane: string, ask: (options: PickOptions) => T | null): T | null {
  return ask(optionsOf(ws, pane, isSolid)) ?? ask(optionsOf(ws, pane));
}

/** What a click on a pixel takes; another than the first where the key that cycles was pressed there. */
export function pickAt(ws: Workspace, x: number, y: number): Picked | null {
  const { cycled } = ws.pointer.getState();
  if (cycled && Math.hypot(x - cycled.x, y - cycled.y) <= SAME_PLACE) {
    const all = candidatesAt(ws, x, y);
    return all[cycled.nth % all.length] ?? null;
  }
  return ws.filter.getState().filter === 'point' ? (snapsAt(ws, x, y)[0] ?? null) : thingAt(ws, x, y);
}

/** px. The cursor that moves farther asks for what is there anew. */
export const SAME_PLACE = 4;

/**
 * All that may be meant at a pixel: the thing there, then the points that belong to it and to what is near,
 * then reference geometry.
 */
export function candidatesAt(ws: Workspace, x: number, y: number): Picked[] {
  const snaps = snapsAt(ws, x, y);
  if (ws.filter.getState().filter === 'point') return snaps;
  const thing = thingAt(ws, x, y);
  return [...(thing ? [thing] : []), ...snaps.filter((s) => !samePick(s, thing))];
}

/** The points near a pixel, on the model and on cuts; the nearest first, those on edges and faces last. */
export function snapsAt(ws: Workspace, x: number, y: number): Picked[] {
  const at = paneAt(ws, x, y);
  const { camera, size, id } = ws.camera.getState().panes[at.index];
  const ask = (options: PickOptions) =>
    snapPoints(indexOf(ws).scene, camera, size, at.x, at.y, { ...options, edges: reachOf(ws, id) });
  const solid = ask(optionsOf(ws, id, isSolid));
  const model = (solid.length ? solid : ask(optionsOf(ws, id))).map((hit) => pointPicked(ws, hit));
  const thing = thingAt(ws, x, y);
  const ofCut = thing && thing.plane !== undefined ? snapsOfCut(ws, thing) : [];
  const origin = datumAt(ws, camera, size, at.x, at.y);
  return [...(origin?.datum === 'origin' ? [origin] : []), ...ofCut, ...model];
}

function pointPicked(ws: Workspace, hit: SnapHit): Picked {
  const path = (component: number) => componentsOf(ws)[component].path;
  const { snap } = hit;
  return {
    ...toPicked(ws, hit),
    ...(snap && {
      snap: {
        ...snap,
        ...(snap.with && { with: { component: path(snap.with.component), index: snap.with.index } }),
      } as Snap,
    }),
  };
}

/** A cut's corner itself, the points of an outline, the place on it or on the face. */
function snapsOfCut(ws: Workspace, thing: Picked): Picked[] {
  if (thing.kind === 'corner') return [thing];
  const point = (snap: Snap, at: Vec3): Picked => ({ ...thing, kind: 'point', snap, point: at });
  if (thing.kind === 'cap') return [point({ kind: 'on face', on: 'cap' }, thing.point!)];
  const { plane, cut } = cutOfPick(ws, thing) ?? {};
  const curve = plane && cut && curvesOf(ws, plane.plane.id, cut)[thing.index];
  return [
    ...(curve
      ? pointsOfCurve(curve, plane!.frame).map(({ kind, at }) => point({ kind, on: 'outline' }, at))
      : []),
    point({ kind: 'on edge', on: 'outline' }, thing.point!),
  ];
}

/** The thing of the model or of a cut under a pixel of a pane. */
function modelAt(ws: Workspace, pane: PaneState, x: number, y: number, kinds: Kinds): Picked | null {
  const { camera, size, id } = pane;
  const wanted = { kinds, edges: reachOf(ws, id) };
  const hit = solidFirst(ws, id, (options) =>
    indexOf(ws).scene.pick(camera, size, x, y, { ...options, ...wanted }),
  );
  return pickOfCuts(ws, pane, x, y, hit, kinds) ?? (hit && toPicked(ws, hit));
}

/** The thing under a pixel: of the model, of a cut, or of the reference geometry that is shown. */
function thingAt(ws: Workspace, x: number, y: number): Picked | null {
  const at = paneAt(ws, x, y);
  const pane = ws.camera.getState().panes[at.index];
  const { camera, size } = pane;
  const found = modelAt(ws, pane, at.x, at.y, ws.filter.getState().kinds);
  const datum = datumBefore(ws, camera, size, at.x, at.y, found);
  return datum ?? (found && filtered(ws, found));
}

/** Reference geometry under a pixel that nothing hides, unless an edge or a point of the model is there. */
function datumBefore(
  ws: Workspace,
  camera: ViewCamera,
  size: Pane,
  x: number,
  y: number,
  model: Picked | null,
): Picked | null {
  const { filter } = ws.filter.getState();
  if (filter !== 'all' && filter !== 'point') return null;
  const datum = datumAt(ws, camera, size, x, y);
  if (!datum || !model) return datum;
  const onLine = model.kind !== 'face' && model.kind !== 'cap';
  const free =
    datum.datum === 'origin' ||
    isBefore(camera, datum.point!, model.point ?? null, 3 * pixelSizeAt(camera, size, datum.point!));
  return free && !onLine ? datum : null;
}

/** What is drawn is picked; who asks for edges or vertices alone is given all of them. */
function reachOf(ws: Workspace, pane: string): EdgeReach {
  if (!ws.filter.getState().kinds.face) return 'all';
  return styleOfPane(ws, pane).smoothEdges === 'off' ? 'sharp' : 'smooth';
}

export function pointUnder(ws: Workspace, x: number, y: number): Vec3 | null {
  const at = paneAt(ws, x, y);
  const pane = ws.camera.getState().panes[at.index];
  const { camera, size, id } = pane;
  const point = solidFirst(ws, id, (options) => indexOf(ws).scene.pointAt(camera, size, at.x, at.y, options));
  const hit = point && { kind: 'face' as const, component: 0, index: 0, point };
  return pickOfCuts(ws, pane, at.x, at.y, hit, ws.filter.getState().kinds)?.point ?? point;
}

/** The component whose face or cut is seen at a pixel. */
export function componentAt(ws: Workspace, x: number, y: number): string | null {
  const at = paneAt(ws, x, y);
  return modelAt(ws, ws.camera.getState().panes[at.index], at.x, at.y, FACES)?.component ?? null;
}

export function nearestPoint(ws: Workspace, x: number, y: number): Vec3 | null {
  const at = paneAt(ws, x, y);
  const { camera, size } = ws.camera.getState().panes[at.index];
  return nearestOnScreen(
    camera,
    size,
    at.x,
    at.y,
    indexOf(ws).onScreen.filter((_, i) => isVisible(ws, i)),
  );
}

const seenFaces = derived('the faces in view', (ws): readonly Placed[] => {
  const pane = activePane(ws);
  const found: Placed[] = [];
  for (const { x, y } of gridFromMiddle(pane.size)) {
    const hit = modelAt(ws, pane, x, y, FACES);
    const item = hit && filtered(ws, hit);
    if (item && !found.some((f) => samePick(f.item, item))) found.push({ item, x, y });
  }
  return found;
});

/**
 * What can be pointed at in the pane under the cursor: faces and cut faces, or what the filter makes of them,
 * each where it is seen nearest to the middle.
 */
export const facesSeen = (ws: Workspace): readonly Placed[] => ws.derived.of(seenFaces);

/** The edges and corners in view of a face that was seen. */
export function boundsSeen(ws: Workspace, { item, x, y }: Placed): Placed[] {
  if (item.kind !== 'face') return [];
  const { camera, size, id } = activePane(ws);
  const component = componentsOf(ws).findIndex((c) => c.path === item.component);
  const face = { kind: item.kind, component, index: item.index, point: item.point!, x, y };
  return boundsInView(indexOf(ws).scene, camera, size, face, optionsOf(ws, id)).map((seen) => ({
    item: toPicked(ws, seen),
    x: seen.x,
    y: seen.y,
  }));
}

/** The first visible face on the line of sight to a point. */
export function firstFace(ws: Workspace, camera: ViewCamera, size: Pane, point: Vec3): Picked | null {
  const at = project(camera, size, point);
  const hit = at.behind
    ? null
    : indexOf(ws).scene.pick(camera, size, at.x, at.y, {
        ...optionsOf(ws, activePane(ws).id),
        kinds: FACES,
      });
  return hit && toPicked(ws, hit);
}

/** The visible components in a rectangle of the canvas: all of each inside, or touching it at all. */
export function pickBox(
  ws: Workspace,
  from: { x: number; y: number },
  to: { x: number; y: number },
  touching: boolean,
): Picked[] {
  const a = paneAt(ws, from.x, from.y);
  const { camera, size, id } = ws.camera.getState().panes[a.index];
  const b = { x: a.x + to.x - from.x, y: a.y + to.y - from.y };
  const box = {
    left: Math.min(a.x, b.x),
    right: Math.max(a.x, b.x),
    top: Math.min(a.y, b.y),
    bottom: Math.max(a.y, b.y),
  };
  return boxesOnScreen(camera, size, box, touching, indexOf(ws).onScreen)
    .filter((i) => isVisible(ws, i) && !(cutNow(ws, id).planes.length && isCutAway(ws, i)))
    .map((i) => ({ kind: 'component', component: componentsOf(ws)[i].path, index: 0 }));
}

/** Whether sections leave nothing of a component. */
function isCutAway(ws: Workspace, index: number): boolean {
  const { part, placement } = componentsOf(ws)[index];
  const { geometry, bvh } = ws.model.getState().parts.get(part)!;
  const { planes, combine } = cutNow(ws);
  return !isLeftWhole(
    { geometry, bvh, placement, stored: indexOf(ws).onScreen[index].placement },
    planes,
    combine,
  );
}

/**
 * What of a cut is under a pixel, unless the model lies before it there. A corner or an outline wins over
 * faces, edges and vertices of the model over a cut face.
 */
function pickOfCuts(
  ws: Workspace,
  pane: PaneState,
  x: number,
  y: number,
  model: PickHit | null,
  kinds: Kinds,
): Picked | null {
  const { camera, size, id } = pane;
  const wanted: Partial<Record<PickHit['kind'], boolean>> = {
    cap: kinds.face,
    outline: kinds.edge,
    corner: kinds.vertex,
  };
  let best: Picked | null = null;
  for (const { plane, cut, cuts } of isUncut(ws, id) ? [] : ws.cut.getState().results) {
    const near = cuts.map((c) => ({ c, box: boxOfCut(ws, c) }));
    const hit = pickCut(
      near.map(({ c, box }) => ({
        component: c.component,
        loops: c.loops,
        box,
        curves: () => curvesOf(ws, plane.id, c),
      })),
      cut,
      camera,
      size,
      x,
      y,
      wanted,
    );
    if (
      !hit ||
      (model &&
        hit.kind === 'cap' &&
        model.kind !== 'face' &&
        !isBefore(camera, hit.point, model.point, -4 * pixelSizeAt(camera, size, hit.point)))
    )
      continue;
    if (!isBefore(camera, hit.point, model?.point ?? null, pixelSizeAt(camera, size, hit.point))) continue;
    if (!best?.point || isBefore(camera, hit.point, best.point, 0))
      best = { ...toPicked(ws, hit), plane: plane.id };
  }
  return best;
}

/** A filter that takes components or bodies only widens what was hit. */
function filtered(ws: Workspace, item: Picked): Picked {
  const { wide } = ws.filter.getState();
  if (wide === 'component')
    return { kind: 'component', component: item.component, index: 0, point: item.point };
  if (wide !== 'body' || isOfCut(item.kind)) return item;
  const part = componentsOf(ws).find((c) => c.path === item.component)!.part;
  return {
    ...item,
    kind: 'body',
    index: ws.model.getState().parts.get(part)!.geometry.faces[item.index].body,
  };
}

/**
 * Everything on the line of sight, nearest first: each face once; behind the first an edge near the cursor
 * that is not drawn.
 */
export function through(ws: Workspace, x: number, y: number): Picked[] {
  const at = paneAt(ws, x, y);
  const pane = ws.camera.getState().panes[at.index];
  const { camera, size, id } = pane;
  const cut = pickOfCuts(ws, pane, at.x, at.y, null, ws.filter.getState().kinds);
  const options = optionsOf(ws, id);
  const [first, ...behind] = indexOf(ws).scene.through(camera, size, at.x, at.y, options);
  const edgesOnly = (edges: EdgeReach) =>
    indexOf(ws).scene.pick(camera, size, at.x, at.y, {
      ...options,
      kinds: { face: false, edge: true, vertex: false },
      edges,
    });
  const undrawn = edgesOnly(reachOf(ws, id)) ? null : edgesOnly('all');
  return [
    ...(cut ? [cut] : []),
    ...[first, undrawn, ...behind].flatMap((hit) => (hit ? [toPicked(ws, hit)] : [])),
  ];
}

function toPicked(ws: Workspace, hit: PickHit): Picked {
  return {
    kind: hit.kind,
    component: componentsOf(ws)[hit.component].path,
    index: hit.index,
    point: hit.point,
  };
}

/** The components that the lines of sight to a face meet before it, in the pane under the cursor. */
export function standingBefore(ws: Workspace, item: Picked): string[] {
  const { camera, size } = activePane(ws);
  const component = componentsOf(ws).find((c) => c.path === item.component);
  const geometry = component && ws.model.getState().parts.get(component.part)?.geometry;
  if (!component || !geometry) return [];
  const found = new Set<string>();
  for (const point of samplePoints(item, geometry, component.placement)) {
    const at = project(camera, size, point);
    if (at.behind) continue;
    for (const hit of indexOf(ws).scene.through(
      camera,
      size,
      at.x,
      at.y,
      optionsOf(ws, activePane(ws).id, isSolid),
    )) {
      const path = componentsOf(ws)[hit.component].path;
      if (path === item.component && hit.index === item.index) break;
      found.add(path);
    }
  }
  return [...found];
}
