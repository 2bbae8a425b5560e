import { orbitTurntable, pan, zoomAt, type Pane, type ViewCamera } from '@bathyscope/core';
import { cameraStore, mainPane } from '../stores/camera-store.ts';
import { stopTurning } from './camera-motion.ts';
import { actionOf, RIGHT_DRAG_ORBITS, type GestureAction } from './gestures.ts';

/** px. A press that moves less is a click. */
const CLICK_SLACK = 4;
/** rad a pixel: half a turn for 500 px. */
const ORBIT_GAIN = Math.PI / 500;
/** Scale for one notch of a common wheel (100 units of deltaY). */
const WHEEL_STEP = 1.15;
/** ms between two clicks of one double click. */
const DOUBLE_CLICK = 350;

/** What the pointer did, in px from the canvas's top left. */
export interface PointerReports {
  hover(x: number, y: number): void;
  leave(): void;
  click(x: number, y: number, add: boolean): void;
  middleClick(x: number, y: number): void;
  middleDoubleClick(): void;
  /** A right click that was no drag. */
  menu(x: number, y: number): void;
  orbiting(active: boolean): void;
}

interface Press {
  x: number;
  y: number;
  lastX: number;
  lastY: number;
  button: number;
  action: GestureAction;
  moved: boolean;
}

/** Turns pointer, wheel and touch into camera moves and reports. */
export class PointerControls {
  private readonly canvas: HTMLElement;
  private readonly reports: PointerReports;
  private press: Press | null = null;
  private readonly touches = new Map<number, { x: number; y: number }>();
  private lastTap = 0;
  private lastMiddle = 0;
  private readonly off = new AbortController();

  constructor(canvas: HTMLElement, reports: PointerReports) {
    this.canvas = canvas;
    this.reports = reports;
    const on = <K extends keyof HTMLElementEventMap>(type: K, handler: (e: HTMLElementEventMap[K]) => void, passive = true) =>
      canvas.addEventListener(type, handler, { signal: this.off.signal, passive });
    on('pointerdown', (e) => this.down(e), false);
    on('pointermove', (e) => this.move(e));
    on('pointerup', (e) => this.up(e));
    on('pointercancel', (e) => this.cancel(e));
    on('pointerleave', () => !this.press && reports.leave());
    on('wheel', (e) => this.wheel(e), false);
    on('contextmenu', (e) => e.preventDefault(), false);
    // The browser's own scrolling by middle press would otherwise start.
    on('mousedown', (e) => e.button === 1 && e.preventDefault(), false);
  }

  dispose(): void {
    this.off.abort();
  }

  private at(e: MouseEvent): { x: number; y: number } {
    const box = this.canvas.getBoundingClientRect();
    return { x: e.clientX - box.left, y: e.clientY - box.top };
  }

  private down(e: PointerEvent): void {
    stopTurning();
    this.canvas.setPointerCapture(e.pointerId);
    this.canvas.focus({ preventScroll: true });
    const { x, y } = this.at(e);
    if (e.pointerType === 'touch') this.touches.set(e.pointerId, { x, y });
    const action = e.pointerType === 'touch' ? 'orbit' : actionOf(RIGHT_DRAG_ORBITS, e);
    this.press ??= { x, y, lastX: x, lastY: y, button: e.button, action, moved: false };
  }

  private move(e: PointerEvent): void {
    const { x, y } = this.at(e);
    if (this.touches.size === 2 && this.touches.has(e.pointerId)) return this.pinch(e.pointerId, x, y);
    const { press } = this;
    if (!press) return this.reports.hover(x, y);
    if (!press.moved && Math.hypot(x - press.x, y - press.y) <= CLICK_SLACK) return;
    if (!press.moved) {
      press.moved = true;
      if (press.action === 'orbit') this.reports.orbiting(true);
    }
    this.drag(press, x - press.lastX, y - press.lastY);
    press.lastX = x;
    press.lastY = y;
  }

  private drag(press: Press, dx: number, dy: number): void {
    const { pivot } = cameraStore.getState();
    if (press.action === 'orbit') this.change((c) => orbitTurntable(c, pivot, dx * ORBIT_GAIN, dy * ORBIT_GAIN));
    if (press.action === 'pan') this.change((c, pane) => pan(c, pane, dx, dy));
    if (press.action === 'zoom') this.change((c, pane) => zoomAt(c, pane, 1.006 ** -dy, press.x, press.y));
  }

  private up(e: PointerEvent): void {
    this.touches.delete(e.pointerId);
    const { press } = this;
    if (!press || this.touches.size) return;
    this.press = null;
    if (press.moved) return this.reports.orbiting(false);
    const { x, y } = this.at(e);
    if (e.pointerType === 'touch') return this.tap(x, y);
    if (press.button === 0) this.reports.click(x, y, e.shiftKey || e.ctrlKey || e.metaKey);
    if (press.button === 2) this.reports.menu(x, y);
    if (press.button === 1) this.middle(e.timeStamp, x, y);
  }

  private cancel(e: PointerEvent): void {
    this.touches.delete(e.pointerId);
    this.press = null;
    this.reports.orbiting(false);
  }

  private tap(x: number, y: number): void {
    const now = performance.now();
    if (now - this.lastTap < DOUBLE_CLICK) this.reports.middleDoubleClick();
    else this.reports.click(x, y, false);
    this.lastTap = now;
  }

  /** A single middle click waits, so that a double one leaves the pivot where it was. */
  private middle(time: number, x: number, y: number): void {
    if (time - this.lastMiddle < DOUBLE_CLICK) {
      this.lastMiddle = 0;
      this.reports.middleDoubleClick();
      return;
    }
    this.lastMiddle = time;
    setTimeout(() => this.lastMiddle === time && this.reports.middleClick(x, y), DOUBLE_CLICK);
  }

  private pinch(id: number, x: number, y: number): void {
    const before = this.touches.get(id)!;
    const other = [...this.touches].find(([key]) => key !== id)![1];
    const ratio = Math.hypot(x - other.x, y - other.y) / Math.max(1, Math.hypot(before.x - other.x, before.y - other.y));
    this.change((c, pane) => zoomAt(pan(c, pane, (x - before.x) / 2, (y - before.y) / 2), pane, ratio, (x + other.x) / 2, (y + other.y) / 2));
    this.touches.set(id, { x, y });
    if (this.press) this.press.moved = true;
  }

  private wheel(e: WheelEvent): void {
    e.preventDefault();
    stopTurning();
    const { x, y } = this.at(e);
    const unit = e.deltaMode === WheelEvent.DOM_DELTA_LINE ? 33 : 1;
    this.change((c, pane) => zoomAt(c, pane, WHEEL_STEP ** ((-e.deltaY * unit) / 100), x, y));
  }

  private change(move: (camera: ViewCamera, pane: Pane) => ViewCamera): void {
    const { camera, size } = mainPane();
    cameraStore.getState().setCamera(move(camera, size));
  }
}
