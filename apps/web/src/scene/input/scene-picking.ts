import {
  boxCentre,
  boxesOnScreen,
  cuttingPlanes,
  EMPTY_BOX,
  isBefore,
  isLeftWhole,
  nearestOnScreen,
  pickCut,
  PickScene,
  pixelSizeAt,
  project,
  uniteBoxes,
  type Box3,
  type Pane,
  type PickHit,
  type PickOptions,
  type ScreenComponent,
  type Vec3,
  type ViewCamera,
} from '@bathyscope/core';
import { type Component } from '../../state/model-store.ts';
import { isOfCut, type Picked } from '../../state/selection-store.ts';
import { storedPlacement } from '../../workspace/placed-points.ts';
import { placedPointsOf, samplePoints } from '../../workspace/placed-points.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { activePane, paneAt } from '../../workspace/panes.ts';
import { boxOf, componentsBelow } from '../../workspace/components.ts';
import { boxOfCut, curvesOf } from '../../workspace/cuts.ts';
import { clipsNow, cutOf, isUncut, sectionNow } from '../../workspace/section-now.ts';
import { isGhost, isShown } from '../../workspace/shown.ts';

/** Answers what is under a pixel of the canvas, in whichever pane that is. */
export class ScenePicking {
  private readonly ws: Workspace;
  readonly pickScene: PickScene;
  private readonly components: readonly Component[];
  private readonly onScreen: ScreenComponent[];
  private shown: { of: unknown; box: Box3 } | null = null;

  constructor(ws: Workspace) {
    this.ws = ws;
    const { components, parts } = this.ws.model.getState();
    this.components = components;
    this.pickScene = new PickScene(
      components,
      new Map([...parts].map(([i, p]) => [i, p.geometry])),
      new Map([...parts].map(([i, p]) => [i, p.bvh])),
    );
    this.onScreen = components.map(({ part, placement }) => {
      const { geometry, bvh } = parts.get(part)!;
      const { min, max } = geometry.box;
      const box = { min: min.map((x, k) => x - geometry.origin[k]), max: max.map((x, k) => x - geometry.origin[k]) } as unknown as Box3;
      return { placement: storedPlacement(placement, geometry.origin), box, bvh };
    });
  }

  private readonly isVisible = (component: number): boolean => isShown(this.ws, this.components[component].path);

  /** Ghosts do not hide what is behind them, unless they are picked themselves. */
  private readonly isSolid = (component: number): boolean => {
    const { path } = this.components[component];
    return isShown(this.ws, path) && (!isGhost(this.ws, path) || this.ws.selection.getState().picked.some((p) => p.component === path));
  };

  private options(pane: string, pickable = this.isVisible): PickOptions {
    const { whole } = this.ws.cut.getState();
    return {
      pickable,
      clips: clipsNow(this.ws, pane),
      clipAll: this.ws.section.getState().combine === 'all',
      uncut: (i) => whole.has(this.components[i].path),
    };
  }

  /** What is solid first; a ghost is picked where nothing else is. */
  private solidFirst<T>(pane: string, ask: (options: PickOptions) => T | null): T | null {
    return ask(this.options(pane, this.isSolid)) ?? ask(this.options(pane));
  }

  pick(x: number, y: number): Picked | null {
    const at = paneAt(this.ws, x, y);
    const { camera, size, id } = this.ws.camera.getState().panes[at.index];
    const { kinds } = this.ws.filter.getState();
    const hit = this.solidFirst(id, (options) => this.pickScene.pick(camera, size, at.x, at.y, { ...options, kinds }));
    const onCut = this.pickCut(id, camera, size, at.x, at.y, hit);
    if (onCut) return this.filtered(onCut);
    return hit && this.filtered(this.toPicked(hit));
  }

  pointAt(x: number, y: number): Vec3 | null {
    const at = paneAt(this.ws, x, y);
    const { camera, size, id } = this.ws.camera.getState().panes[at.index];
    const point = this.solidFirst(id, (options) => this.pickScene.pointAt(camera, size, at.x, at.y, options));
    return this.pickCut(id, camera, size, at.x, at.y, point && { kind: 'face', component: 0, index: 0, point })?.point ?? point;
  }

  nearestPoint(x: number, y: number): Vec3 | null {
    const at = paneAt(this.ws, x, y);
    const { camera, size } = this.ws.camera.getState().panes[at.index];
    return nearestOnScreen(
      camera,
      size,
      at.x,
      at.y,
      this.onScreen.filter((_, i) => this.isVisible(i)),
    );
  }

  /** The first visible face on the line of sight to a point. */
  firstFace(camera: ViewCamera, size: Pane, point: Vec3): Picked | null {
    const at = project(camera, size, point);
    const hit = at.behind
      ? null
      : this.pickScene.pick(camera, size, at.x, at.y, {
          ...this.options(activePane(this.ws).id),
          kinds: { face: true, edge: false, vertex: false },
        });
    return hit && this.toPicked(hit);
  }

  /** The visible components in a rectangle of the canvas: all of each inside, or touching it at all. */
  pickBox(from: { x: number; y: number }, to: { x: number; y: number }, touching: boolean): Picked[] {
    const a = paneAt(this.ws, from.x, from.y);
    const { camera, size, id } = this.ws.camera.getState().panes[a.index];
    const b = { x: a.x + to.x - from.x, y: a.y + to.y - from.y };
    const box = { left: Math.min(a.x, b.x), right: Math.max(a.x, b.x), top: Math.min(a.y, b.y), bottom: Math.max(a.y, b.y) };
    return boxesOnScreen(camera, size, box, touching, this.onScreen)
      .filter((i) => this.isVisible(i) && !(clipsNow(this.ws, id).length && this.isCutAway(i)))
      .map((i) => ({ kind: 'component', component: this.components[i].path, index: 0 }));
  }

  /** Whether sections leave nothing of a component. */
  private isCutAway(index: number): boolean {
    const { part, placement } = this.components[index];
    const { geometry, bvh } = this.ws.model.getState().parts.get(part)!;
    const section = sectionNow(this.ws);
    return !isLeftWhole(
      { geometry, bvh, placement, stored: this.onScreen[index].placement },
      cuttingPlanes(section).map((plane) => cutOf(this.ws, plane)),
      section.combine,
    );
  }

  /** What of a cut is under a pixel, unless the model lies before it there. A corner or an outline wins over faces, edges and vertices of the model over a cut face. */
  private pickCut(pane: string, camera: ViewCamera, size: Pane, x: number, y: number, model: PickHit | null): Picked | null {
    const { kinds } = this.ws.filter.getState();
    const wanted: Partial<Record<PickHit['kind'], boolean>> = { cap: kinds.face, outline: kinds.edge, corner: kinds.vertex };
    let best: Picked | null = null;
    for (const { plane, cut, cuts } of isUncut(this.ws, pane) ? [] : this.ws.cut.getState().made) {
      const near = cuts.map((c) => ({ c, box: boxOfCut(this.ws, c) }));
      const hit = pickCut(
        near.map(({ c, box }) => ({ component: c.component, loops: c.loops, box, curves: () => curvesOf(this.ws, plane.id, c) })),
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
      if (!best?.point || isBefore(camera, hit.point, best.point, 0)) best = { ...this.toPicked(hit), plane: plane.id };
    }
    return best;
  }

  /** A filter that takes components or bodies only widens what was hit. */
  private filtered(item: Picked): Picked {
    const { wide } = this.ws.filter.getState();
    if (wide === 'component') return { kind: 'component', component: item.component, index: 0, point: item.point };
    if (wide !== 'body' || isOfCut(item.kind)) return item;
    const part = this.components.find((c) => c.path === item.component)!.part;
    return { ...item, kind: 'body', index: this.ws.model.getState().parts.get(part)!.geometry.faces[item.index].body };
  }

  /** Everything on the line of sight, nearest first: each face once. */
  through(x: number, y: number): Picked[] {
    const at = paneAt(this.ws, x, y);
    const { camera, size, id } = this.ws.camera.getState().panes[at.index];
    const cut = this.pickCut(id, camera, size, at.x, at.y, null);
    return [...(cut ? [cut] : []), ...this.pickScene.through(camera, size, at.x, at.y, this.options(id)).map((hit) => this.toPicked(hit))];
  }

  private toPicked(hit: PickHit): Picked {
    return { kind: hit.kind, component: this.components[hit.component].path, index: hit.index, point: hit.point };
  }

  shownPaths(): string[] {
    return this.components.filter((c) => isShown(this.ws, c.path)).map((c) => c.path);
  }

  get placedMeshes(): readonly ScreenComponent[] {
    return this.onScreen;
  }

  /** The components that the lines of sight to a face meet before it, in the pane under the cursor. */
  standingBefore(item: Picked): string[] {
    const { camera, size } = activePane(this.ws);
    const component = this.components.find((c) => c.path === item.component);
    const geometry = component && this.ws.model.getState().parts.get(component.part)?.geometry;
    if (!component || !geometry) return [];
    const found = new Set<string>();
    for (const point of samplePoints(item, geometry, component.placement)) {
      const at = project(camera, size, point);
      if (at.behind) continue;
      for (const hit of this.pickScene.through(camera, size, at.x, at.y, this.options(activePane(this.ws).id, this.isSolid))) {
        const path = this.components[hit.component].path;
        if (path === item.component && hit.index === item.index) break;
        found.add(path);
      }
    }
    return [...found];
  }

  /** Middle of the box of what is picked. */
  pickedPoint(): Vec3 | null {
    const { picked } = this.ws.selection.getState();
    const { byPath, parts } = this.ws.model.getState();
    const points = picked.flatMap((item) => {
      if (item.kind === 'component') return [boxCentre(boxOf(this.ws, componentsBelow(this.ws, item.component)))];
      if (isOfCut(item.kind)) return item.point ? [item.point] : [];
      const component = byPath.get(item.component);
      const geometry = component?.part === undefined ? undefined : parts.get(component.part)?.geometry;
      return component && geometry ? placedPointsOf(item, geometry, component.placement) : [];
    });
    if (!points.length) return null;
    const box = points.reduce((b, p) => uniteBoxes(b, { min: p, max: p }), EMPTY_BOX);
    return boxCentre(box);
  }

  /** Of what is shown; of everything when all is hidden. */
  shownBox(): Box3 {
    const of = this.ws.visibility.getState();
    // Asked at every step of a drag by all that stands on the model's size.
    if (this.shown?.of !== of) {
      const shown = this.components.filter((_, i) => this.isVisible(i));
      this.shown = {
        of,
        box: boxOf(
          this.ws,
          (shown.length ? shown : this.components).map((c) => c.path),
        ),
      };
    }
    return this.shown.box;
  }
}
