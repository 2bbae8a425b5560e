import { useEffect, useRef } from 'react';
import { toast } from 'sonner';
import { zoomWindow } from '@bathyscope/core';
import { acceptSection } from '../../commands/cut/section-changes.ts';
import { commandById } from '../../commands/registry.ts';
import { setVisible } from '../../commands/show/visibility-commands.ts';
import { offerPick, runCommand } from '../../commands/run-command.ts';
import { turnTo } from '../../workspace/turn-view.ts';
import type { GestureAction } from '../../state/gestures.ts';
import { Navigator } from '../../scene/input/navigator.ts';
import { PointerControls, type PointerReports } from '../../scene/input/pointer-controls.ts';
import { makeOwnThumbnail } from '../../scene/pictures/thumbnails.ts';
import { SceneView } from '../../scene/scene-view.ts';
import { watchContext } from '../../scene/watch-context.ts';
import { samePick, type Picked } from '../../state/selection-store.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { useWorkspace } from '../use-workspace.ts';
import { activePane, paneAt } from '../../workspace/panes.ts';
import { closePickList, walkPickList } from '../../workspace/pick-list.ts';

/** The cursor tells what a click would pick. */
const CURSORS: Record<Picked['kind'], string> = {
  component: 'default',
  body: 'default',
  face: 'pointer',
  edge: 'crosshair',
  vertex: 'cell',
  cap: 'pointer',
  outline: 'crosshair',
  corner: 'cell',
};
const MODE_CURSORS: Partial<Record<GestureAction, string>> = {
  orbit: 'grab',
  pan: 'move',
  zoom: 'ns-resize',
  roll: 'ew-resize',
  box: 'crosshair',
  window: 'zoom-in',
};

export function SceneCanvas() {
  const ws = useWorkspace();
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const canvas = ref.current!;
    const view = new SceneView(ws, canvas);
    const { picking } = view;
    const navigator = new Navigator(ws, {
      pointAt: (x, y) => picking.pointAt(x, y),
      nearestPoint: (x, y) => picking.nearestPoint(x, y),
      pickedPoint: () => picking.pickedPoint(),
      shownBox: () => picking.shownBox(),
      showPivot: (visible) => view.showPivot(visible),
      offerPivot: (why) => offerPivot(ws, why),
    });
    const controls = new PointerControls(ws, canvas, navigator, reportsOf(ws, canvas, view, navigator));
    ws.scene.setState({ scene: { view, navigator } });
    const unwatch = watchContext(
      canvas,
      () =>
        toast.warning('The graphics card has dropped the picture. It is drawn again as soon as the card answers.', {
          id: 'context',
          duration: Infinity,
        }),
      () => {
        toast.dismiss('context');
        view.invalidate();
      },
    );
    void makeOwnThumbnail(ws, view);
    // For tests and benchmarks: the same things the interface uses, nothing more.
    (window as { bathyscope?: unknown }).bathyscope = {
      view,
      cameraStore: ws.camera,
      selectionStore: ws.selection,
      modelStore: ws.model,
      visibilityStore: ws.visibility,
      styleStore: ws.style,
      referenceStore: ws.reference,
      sectionStore: ws.section,
      cutStore: ws.cut,
    };
    return () => {
      unwatch();
      controls.dispose();
      ws.scene.setState({ scene: null });
      view.dispose();
      ws.pointer.setState({ point: null, at: null });
      ws.selection.getState().setHover(null);
    };
  }, [ws]);
  return (
    <canvas
      ref={ref}
      tabIndex={0}
      aria-label="Model"
      data-testid="scene"
      className="absolute inset-0 size-full touch-none outline-offset-[-3px]"
    />
  );
}

function offerPivot(ws: Workspace, why: string): void {
  toast(why, { id: 'pivot', action: { label: 'Bring the pivot back', onClick: () => runCommand(ws, commandById('pivot-home')) } });
}

function reportsOf(ws: Workspace, canvas: HTMLCanvasElement, view: SceneView, navigator: Navigator): PointerReports {
  const { setHover, pick, toggle } = ws.selection.getState();
  const { picking } = view;
  let asked = 0;

  const pickAt = (x: number, y: number, add: boolean) => {
    // Clicking on at the same place walks the pick-through list.
    const { list } = ws.pickList.getState();
    if (list && Math.hypot(x - list.x, y - list.y) <= 4) {
      walkPickList(ws, 1);
      return pick([list.items[(list.at + 1) % list.items.length]]);
    }
    closePickList(ws);
    const hit = picking.pick(x, y);
    if (hit && offerPick(ws, hit)) return;
    // While peeking a click brings a component back.
    if (hit && ws.visibility.getState().peeking) {
      const inverse = setVisible(ws, [hit.component], true);
      if (inverse) ws.history.getState().record(inverse);
      return;
    }
    if (!hit) return add ? undefined : pick([]);
    if (add) return toggle(hit);
    acceptSection(ws);
    const { picked } = ws.selection.getState();
    // A second click on the same thing widens the pick to its component.
    const again = picked.length === 1 && samePick(picked[0], hit);
    pick([again ? { kind: 'component', component: hit.component, index: 0 } : hit]);
  };
  const movePivot = (x: number, y: number) => {
    const point = picking.pointAt(x, y);
    if (point) ws.camera.getState().setPivot(point);
    view.showPivot(true);
    setTimeout(() => view.showPivot(false), 700);
  };
  const openMenu = (x: number, y: number) => {
    const hit = picking.pick(x, y);
    const { picked } = ws.selection.getState();
    if (hit && !picked.some((p) => samePick(p, hit) || (p.kind === 'component' && p.component === hit.component))) pick([hit]);
    const box = canvas.getBoundingClientRect();
    ws.menu.setState({ open: { x: box.left + x, y: box.top + y, on: hit ? 'thing' : 'space' } });
  };
  const clicks: Partial<Record<GestureAction, (x: number, y: number) => void>> = {
    pick: (x, y) => pickAt(x, y, false),
    add: (x, y) => pickAt(x, y, true),
    pivot: movePivot,
    menu: openMenu,
    fit: () => runCommand(ws, commandById('fit')),
    centre: (x, y) => {
      const point = picking.pointAt(x, y);
      if (point) turnTo(ws, navigator.centre(point));
    },
  };

  return {
    hover: (x, y) => {
      // At most one question a frame: fast hands send several moves in one.
      cancelAnimationFrame(asked);
      asked = requestAnimationFrame(() => {
        ws.camera.getState().setActive(paneAt(ws, x, y).index);
        const hit = picking.pick(x, y);
        setHover(hit);
        ws.pointer.setState({ point: hit?.point ?? null, at: { x, y } });
        const { leftDrag } = ws.mode.getState();
        canvas.style.cursor = (leftDrag && MODE_CURSORS[leftDrag.action]) ?? (hit ? CURSORS[hit.kind] : 'default');
      });
    },
    leave: () => {
      cancelAnimationFrame(asked);
      setHover(null);
      ws.pointer.setState({ point: null, at: null });
    },
    click: (action, x, y) => {
      ws.camera.getState().setActive(paneAt(ws, x, y).index);
      clicks[action]?.(x, y);
    },
    boxDrawn: (action, from, to, add) => {
      ws.camera.getState().setActive(paneAt(ws, from.x, from.y).index);
      if (action === 'window') {
        const a = paneAt(ws, from.x, from.y);
        const box = {
          x: a.x + Math.min(0, to.x - from.x),
          y: a.y + Math.min(0, to.y - from.y),
          width: Math.abs(to.x - from.x),
          height: Math.abs(to.y - from.y),
        };
        turnTo(ws, zoomWindow(activePane(ws).camera, activePane(ws).size, box));
        ws.mode.setState({ leftDrag: null });
        return;
      }
      const found = picking.pickBox(from, to, to.x < from.x);
      const before = add ? ws.selection.getState().picked : [];
      pick([...before, ...found.filter((f) => !before.some((b) => samePick(b, f)))]);
    },
  };
}
