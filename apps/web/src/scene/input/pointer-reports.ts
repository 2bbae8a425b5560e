import { clickAt, openMenuAt, pickInBox, zoomToWindow } from '../../commands/pick/clicks.ts';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import type { GestureAction } from '../../state/gestures.ts';
import type { Picked } from '../../state/selection-store.ts';
import { centredOn } from '../../workspace/view/camera-targets.ts';
import { paneAt } from '../../workspace/view/panes.ts';
import { pickAt, pointUnder, SAME_PLACE } from '../../workspace/picking/picking.ts';
import { turnTo } from '../../workspace/view/turn-view.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import type { PointerReports } from './pointer-controls.ts';

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
  point: 'cell',
  datum: 'crosshair',
};
const MODE_CURSORS: Partial<Record<GestureAction, string>> = {
  orbit: 'grab',
  pan: 'move',
  zoom: 'ns-resize',
  roll: 'ew-resize',
  box: 'crosshair',
  window: 'zoom-in',
};

/** What follows from what the pointer did in a scene. */
export function pointerReports(
  ws: Workspace,
  canvas: HTMLCanvasElement,
  flashPivot: () => void,
): PointerReports {
  const { setHover } = ws.selection.getState();
  const activate = (x: number, y: number) => ws.camera.getState().setActive(paneAt(ws, x, y).index);
  let asked = 0;

  const hover = (x: number, y: number) => {
    activate(x, y);
    const hit = pickAt(ws, x, y);
    setHover(hit);
    const { cycled } = ws.pointer.getState();
    const there = cycled && Math.hypot(x - cycled.x, y - cycled.y) <= SAME_PLACE;
    ws.pointer.setState({
      point: hit?.point ?? null,
      at: { x, y },
      walked: null,
      ...(!there && { cycled: null }),
    });
    const { leftDrag } = ws.mode.getState();
    canvas.style.cursor =
      (leftDrag && MODE_CURSORS[leftDrag.action]) ?? (hit ? CURSORS[hit.kind] : 'default');
  };
  const clicks: Partial<Record<GestureAction, (x: number, y: number) => void>> = {
    pick: (x, y) => clickAt(ws, x, y, false),
    add: (x, y) => clickAt(ws, x, y, true),
    pivot: (x, y) => {
      const point = pointUnder(ws, x, y);
      if (point) ws.camera.getState().setPivot(point);
      flashPivot();
    },
    menu: (x, y) => {
      const box = canvas.getBoundingClientRect();
      openMenuAt(ws, x, y, { x: box.left + x, y: box.top + y });
    },
    fit: () => runCommand(ws, commandById('fit')),
    centre: (x, y) => {
      const point = pointUnder(ws, x, y);
      if (point) turnTo(ws, centredOn(ws, point));
    },
  };

  return {
    hover: (x, y) => {
      // At most one question a frame: fast hands send several moves in one.
      cancelAnimationFrame(asked);
      asked = requestAnimationFrame(() => hover(x, y));
    },
    leave: () => {
      cancelAnimationFrame(asked);
      setHover(null);
      ws.pointer.setState({ point: null, at: null });
    },
    click: (action, x, y) => {
      activate(x, y);
      clicks[action]?.(x, y);
    },
    boxDrawn: (action, from, to, add) => {
      activate(from.x, from.y);
      if (action === 'window') zoomToWindow(ws, from, to);
      else pickInBox(ws, from, to, add);
    },
  };
}
