import { useEffect, useRef } from 'react';
import { toast } from 'sonner';
import { zoomWindow } from '@bathyscope/core';
import { acceptSection } from '../../commands/section-changes.ts';
import { commandById } from '../../commands/registry.ts';
import { setVisible } from '../../commands/visibility-commands.ts';
import { historyStore } from '../../stores/history-store.ts';
import { visibilityStore } from '../../stores/visibility-store.ts';
import { offerPick, runCommand } from '../../commands/run-command.ts';
import { turnTo } from '../../scene/camera-motion.ts';
import type { GestureAction } from '../../scene/gestures.ts';
import { Navigator } from '../../scene/navigator.ts';
import { PointerControls, type PointerReports } from '../../scene/pointer-controls.ts';
import { makeOwnThumbnail } from '../../shelf/thumbnails.ts';
import { SceneView } from '../../scene/scene-view.ts';
import { activePane, cameraStore, paneAt } from '../../stores/camera-store.ts';
import { menuStore } from '../../stores/menu-store.ts';
import { cutStore } from '../../stores/cut-store.ts';
import { closePickList, pickListStore, walkPickList } from '../../stores/pick-list-store.ts';
import { modeStore } from '../../stores/mode-store.ts';
import { modelStore } from '../../stores/model-store.ts';
import { pointerStore } from '../../stores/pointer-store.ts';
import { referenceStore } from '../../stores/reference-store.ts';
import { sceneStore } from '../../stores/scene-store.ts';
import { sectionStore } from '../../stores/section-store.ts';
import { styleStore } from '../../stores/style-store.ts';
import { samePick, selectionStore, type Picked } from '../../stores/selection-store.ts';

/** The cursor tells what a click would pick. */
const CURSORS: Record<Picked['kind'], string> = { component: 'default', body: 'default', face: 'pointer', edge: 'crosshair', vertex: 'cell', cap: 'pointer', outline: 'crosshair', corner: 'cell' };
const MODE_CURSORS: Partial<Record<GestureAction, string>> = { orbit: 'grab', pan: 'move', zoom: 'ns-resize', roll: 'ew-resize', box: 'crosshair', window: 'zoom-in' };

export function SceneCanvas() {
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const canvas = ref.current!;
    const view = new SceneView(canvas);
    const { picking } = view;
    const navigator = new Navigator({
      pointAt: (x, y) => picking.pointAt(x, y), nearestPoint: (x, y) => picking.nearestPoint(x, y), pickedPoint: () => picking.pickedPoint(),
      shownBox: () => picking.shownBox(), showPivot: (visible) => view.showPivot(visible), offerPivot,
    });
    const controls = new PointerControls(canvas, navigator, reportsOf(canvas, view, navigator));
    sceneStore.setState({ scene: { view, navigator } });
    void makeOwnThumbnail(view);
    // For tests and benchmarks: the same things the interface uses, nothing more.
    (window as { bathyscope?: unknown }).bathyscope = { view, cameraStore, selectionStore, modelStore, visibilityStore, styleStore, referenceStore, sectionStore, cutStore };
    return () => {
      controls.dispose();
      sceneStore.setState({ scene: null });
      view.dispose();
      pointerStore.setState({ point: null, at: null });
      selectionStore.getState().setHover(null);
    };
  }, []);
  return <canvas ref={ref} tabIndex={0} aria-label="Model" data-testid="scene" className="absolute inset-0 size-full touch-none outline-offset-[-3px]" />;
}

function offerPivot(why: string): void {
  toast(why, { id: 'pivot', action: { label: 'Bring the pivot back', onClick: () => runCommand(commandById('pivot-home')) } });
}

function reportsOf(canvas: HTMLCanvasElement, view: SceneView, navigator: Navigator): PointerReports {
  const { setHover, pick, toggle } = selectionStore.getState();
  const { picking } = view;
  let asked = 0;

  const pickAt = (x: number, y: number, add: boolean) => {
    // Clicking on at the same place walks the pick-through list.
    const { list } = pickListStore.getState();
    if (list && Math.hypot(x - list.x, y - list.y) <= 4) {
      walkPickList(1);
      return pick([list.items[(list.at + 1) % list.items.length]]);
    }
    closePickList();
    const hit = picking.pick(x, y);
    if (hit && offerPick(hit)) return;
    // While peeking a click brings a component back.
    if (hit && visibilityStore.getState().peeking) {
      const inverse = setVisible([hit.component], true);
      if (inverse) historyStore.getState().record(inverse);
      return;
    }
    if (!hit) return add ? undefined : pick([]);
    if (add) return toggle(hit);
    acceptSection();
    const { picked } = selectionStore.getState();
    // A second click on the same thing widens the pick to its component.
    const again = picked.length === 1 && samePick(picked[0], hit);
    pick([again ? { kind: 'component', component: hit.component, index: 0 } : hit]);
  };
  const movePivot = (x: number, y: number) => {
    const point = picking.pointAt(x, y);
    if (point) cameraStore.getState().setPivot(point);
    view.showPivot(true);
    setTimeout(() => view.showPivot(false), 700);
  };
  const openMenu = (x: number, y: number) => {
    const hit = picking.pick(x, y);
    const { picked } = selectionStore.getState();
    if (hit && !picked.some((p) => samePick(p, hit) || (p.kind === 'component' && p.component === hit.component))) pick([hit]);
    const box = canvas.getBoundingClientRect();
    menuStore.setState({ open: { x: box.left + x, y: box.top + y, on: hit ? 'thing' : 'space' } });
  };
  const clicks: Partial<Record<GestureAction, (x: number, y: number) => void>> = {
    pick: (x, y) => pickAt(x, y, false),
    add: (x, y) => pickAt(x, y, true),
    pivot: movePivot,
    menu: openMenu,
    fit: () => runCommand(commandById('fit')),
    centre: (x, y) => {
      const point = picking.pointAt(x, y);
      if (point) turnTo(navigator.centre(point));
    },
  };

  return {
    hover: (x, y) => {
      // At most one question a frame: fast hands send several moves in one.
      cancelAnimationFrame(asked);
      asked = requestAnimationFrame(() => {
        cameraStore.getState().setActive(paneAt(x, y).index);
        const hit = picking.pick(x, y);
        setHover(hit);
        pointerStore.setState({ point: hit?.point ?? null, at: { x, y } });
        const { leftDrag } = modeStore.getState();
        canvas.style.cursor = (leftDrag && MODE_CURSORS[leftDrag.action]) ?? (hit ? CURSORS[hit.kind] : 'default');
      });
    },
    leave: () => {
      cancelAnimationFrame(asked);
      setHover(null);
      pointerStore.setState({ point: null, at: null });
    },
    click: (action, x, y) => {
      cameraStore.getState().setActive(paneAt(x, y).index);
      clicks[action]?.(x, y);
    },
    boxDrawn: (action, from, to, add) => {
      cameraStore.getState().setActive(paneAt(from.x, from.y).index);
      if (action === 'window') {
        const a = paneAt(from.x, from.y);
        const box = { x: a.x + Math.min(0, to.x - from.x), y: a.y + Math.min(0, to.y - from.y), width: Math.abs(to.x - from.x), height: Math.abs(to.y - from.y) };
        turnTo(zoomWindow(activePane().camera, activePane().size, box));
        modeStore.setState({ leftDrag: null });
        return;
      }
      const found = picking.pickBox(from, to, to.x < from.x);
      const before = add ? selectionStore.getState().picked : [];
      pick([...before, ...found.filter((f) => !before.some((b) => samePick(b, f)))]);
    },
  };
}
