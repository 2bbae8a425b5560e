import { gestureMap, presetOf } from './active-gestures.ts';
import {
  actionFor,
  gestureName,
  LEFT,
  MIDDLE,
  RIGHT,
  type GestureAction,
  type GestureKind,
} from '../../state/gestures.ts';
import type { Navigator } from './navigator.ts';
import type { Workspace } from '../../workspace/workspace.ts';

/** px. A press that moves less is a click. */
const CLICK_SLACK = 4;
/** Scale for one notch of a common wheel (100 units of deltaY). */
const WHEEL_STEP = 1.15;
/** Scale for 100 units of a pinch, which sends small ones. */
const PINCH_STEP = 2.5;
/** ms between two clicks of one double click. */
const DOUBLE_CLICK = 350;
/** ms that a finger rests on one place to open the menu. */
const LONG_PRESS = 550;
/** px from the edge of the screen at which a drag is locked to the window, so that it can go on. */
const SCREEN_EDGE = 3;

/** What the pointer did, in px from the canvas's top left. Camera moves are none of these. */
export interface PointerReports {
  hover(x: number, y: number): void;
  leave(): void;
  click(action: GestureAction, x: number, y: number): void;
  /** A rectangle was drawn with this action; `add` when it shall add to the pick. */
  boxDrawn(
    action: 'box' | 'window',
    from: { x: number; y: number },
    to: { x: number; y: number },
    add: boolean,
  ): void;
}

interface Press {
  x: number;
  y: number;
  lastX: number;
  lastY: number;
  buttons: number;
  action: GestureAction;
  moved: boolean;
  modifiers: { ctrl: boolean; shift: boolean; alt: boolean };
}

const BIT: Record<number, number> = { 0: LEFT, 1: MIDDLE, 2: RIGHT };
const modifiersOf = (e: MouseEvent) => ({ ctrl: e.ctrlKey || e.metaKey, shift: e.shiftKey, alt: e.altKey });

/** Turns pointer, wheel and touch into camera moves and reports, by the gesture bindings in force. */
export class PointerControls {
  private readonly ws: Workspace;
  private readonly canvas: HTMLElement;
  private readonly navigator: Navigator;
  private readonly reports: PointerReports;
  private press: Press | null = null;
  private readonly touches = new Map<number, { x: number; y: number }>();
  private lastClick = { time: 0, buttons: 0 };
  private longPress = 0;
  private readonly off = new AbortController();

  constructor(ws: Workspace, canvas: HTMLElement, navigator: Navigator, reports: PointerReports) {
    this.ws = ws;
    this.canvas = canvas;
    this.navigator = navigator;
    this.reports = reports;
    const on = <K extends keyof HTMLElementEventMap>(
      type: K,
      handler: (e: HTMLElementEventMap[K]) => void,
      passive = true,
    ) => canvas.addEventListener(type, handler, { signal: this.off.signal, passive });
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
    window.clearTimeout(this.longPress);
    this.off.abort();
  }

  private at(e: MouseEvent): { x: number; y: number } {
    const box = this.canvas.getBoundingClientRect();
    return { x: e.clientX - box.left, y: e.clientY - box.top };
  }

  private dragAction(buttons: number, modifiers: Press['modifiers']): GestureAction {
    const { leftDrag } = this.ws.mode.getState();
    if (leftDrag && buttons === LEFT) return leftDrag.action;
    return actionFor(gestureMap(this.ws), 'drag', buttons, modifiers);
  }

  private down(e: PointerEvent): void {
    this.canvas.setPointerCapture(e.pointerId);
    this.canvas.focus({ preventScroll: true });
    const { x, y } = this.at(e);
    if (e.pointerType === 'touch') this.touches.set(e.pointerId, { x, y });
    const buttons = e.pointerType === 'touch' ? LEFT : e.buttons || BIT[e.button];
    const modifiers = modifiersOf(e);
    const action = e.pointerType === 'touch' ? 'orbit' : this.dragAction(buttons, modifiers);
    this.press ??= { x, y, lastX: x, lastY: y, buttons, action, moved: false, modifiers };
    window.clearTimeout(this.longPress);
    if (e.pointerType === 'touch' && this.touches.size === 1)
      this.longPress = window.setTimeout(() => this.heldStill(x, y), LONG_PRESS);
  }

  /** A finger that rests opens the menu, as a right click does. */
  private heldStill(x: number, y: number): void {
    if (!this.press || this.press.moved || this.touches.size !== 1) return;
    // What follows is neither a tap nor a drag.
    this.press = null;
    this.touches.clear();
    this.reports.click('menu', x, y);
  }

  private move(e: PointerEvent): void {
    const { x, y } = this.at(e);
    if (this.touches.size === 2 && this.touches.has(e.pointerId)) return this.pinch(e.pointerId, x, y);
    const { press } = this;
    if (!press) return this.reports.hover(x, y);
    if (e.pointerType === 'mouse' && e.buttons !== press.buttons) this.rebutton(press, e.buttons, x, y);
    if (document.pointerLockElement === this.canvas) return this.dragBy(press, e.movementX, e.movementY);
    if (!press.moved && Math.hypot(x - press.x, y - press.y) <= CLICK_SLACK) return;
    if (!press.moved) {
      press.moved = true;
      this.navigator.begin(press.action, press.x, press.y);
    }
    this.dragBy(press, x - press.lastX, y - press.lastY);
    this.lockAtScreenEdge(press, e);
  }

  /** A second button went down or came up: with two the drag is another one, after that it is none. */
  private rebutton(press: Press, buttons: number, x: number, y: number): void {
    const more = (buttons & press.buttons) === press.buttons;
    if (buttons === 0) return;
    press.action = more ? this.dragAction(buttons, press.modifiers) : 'none';
    press.buttons = buttons;
    // Two buttons are never a click, whatever they move.
    press.moved = true;
    if (more) this.navigator.begin(press.action, x, y);
  }

  private dragBy(press: Press, dx: number, dy: number): void {
    press.lastX += dx;
    press.lastY += dy;
    if (press.action === 'box' || press.action === 'window') {
      this.ws.mode.setState({
        box: {
          ...rectangle(press, { x: press.lastX, y: press.lastY }),
          touching: press.action === 'box' && press.lastX < press.x,
        },
      });
      return;
    }
    const sign =
      press.action === 'zoom' ? this.direction(gestureName('drag', press.buttons, press.modifiers)) : 1;
    this.navigator.drag(press.action, dx, dy * sign, press.lastX, press.lastY);
  }

  private direction(name: string): 1 | -1 {
    return this.ws.profile.getState().invertedZooms.includes(name) ? -1 : 1;
  }

  /**
   * Capture tells moves beyond the window, but not beyond the screen: there the pointer is
   * locked, if the browser allows.
   */
  private lockAtScreenEdge(press: Press, e: PointerEvent): void {
    if (
      e.pointerType !== 'mouse' ||
      !['orbit', 'pan', 'zoom', 'roll'].includes(press.action) ||
      document.pointerLockElement
    )
      return;
    const { screen } = window;
    const left = (screen as { availLeft?: number }).availLeft ?? 0;
    const top = (screen as { availTop?: number }).availTop ?? 0;
    const near =
      e.screenX <= left + SCREEN_EDGE ||
      e.screenY <= top + SCREEN_EDGE ||
      e.screenX >= left + screen.availWidth - SCREEN_EDGE ||
      e.screenY >= top + screen.availHeight - SCREEN_EDGE;
    if (near)
      void Promise.resolve(this.canvas.requestPointerLock() as Promise<void> | undefined).catch(() => {});
  }

  private up(e: PointerEvent): void {
    window.clearTimeout(this.longPress);
    this.touches.delete(e.pointerId);
    const { press } = this;
    if (!press || this.touches.size) return;
    this.press = null;
    if (document.pointerLockElement === this.canvas) document.exitPointerLock();
    if (press.moved) return this.ended(press, e);
    const { x, y } = this.at(e);
    if (e.pointerType === 'touch') return this.tap(x, y);
    this.click(press, e.timeStamp, x, y);
  }

  private ended(press: Press, e: PointerEvent): void {
    this.navigator.end();
    const { box } = this.ws.mode.getState();
    this.ws.mode.setState({ box: null });
    if (box && (press.action === 'box' || press.action === 'window'))
      this.reports.boxDrawn(
        press.action,
        { x: press.x, y: press.y },
        { x: press.lastX, y: press.lastY },
        e.shiftKey || e.ctrlKey,
      );
  }

  private cancel(e: PointerEvent): void {
    window.clearTimeout(this.longPress);
    this.touches.delete(e.pointerId);
    this.press = null;
    this.ws.mode.setState({ box: null });
    this.navigator.end();
  }

  private tap(x: number, y: number): void {
    const now = performance.now();
    const double = now - this.lastClick.time < DOUBLE_CLICK;
    this.reports.click(double ? 'fit' : 'pick', x, y);
    this.lastClick = { time: now, buttons: LEFT };
  }

  /**
   * Where a double click is bound, its single click waits, so that the one does not do the other's work too.
   */
  private click(press: Press, time: number, x: number, y: number): void {
    const action = (kind: GestureKind) =>
      actionFor(gestureMap(this.ws), kind, press.buttons, press.modifiers);
    const doubled = actionFor(gestureMap(this.ws), 'double click', press.buttons, press.modifiers);
    const second = time - this.lastClick.time < DOUBLE_CLICK && this.lastClick.buttons === press.buttons;
    this.lastClick = { time: second ? 0 : time, buttons: press.buttons };
    if (second && doubled !== 'none') return this.reports.click(doubled, x, y);
    if (doubled === 'none' || press.buttons === LEFT) return this.reports.click(action('click'), x, y);
    setTimeout(() => this.lastClick.time === time && this.reports.click(action('click'), x, y), DOUBLE_CLICK);
  }

  private pinch(id: number, x: number, y: number): void {
    const before = this.touches.get(id)!;
    const other = [...this.touches].find(([key]) => key !== id)![1];
    const ratio =
      Math.hypot(x - other.x, y - other.y) / Math.max(1, Math.hypot(before.x - other.x, before.y - other.y));
    this.navigator.begin('pan', (x + other.x) / 2, (y + other.y) / 2);
    this.navigator.drag('pan', (x - before.x) / 2, (y - before.y) / 2, x, y);
    this.navigator.zoom(ratio, (x + other.x) / 2, (y + other.y) / 2);
    this.touches.set(id, { x, y });
    if (this.press) this.press.moved = true;
  }

  private wheel(e: WheelEvent): void {
    e.preventDefault();
    const { x, y } = this.at(e);
    const modifiers = modifiersOf(e);
    const unit = e.deltaMode === WheelEvent.DOM_DELTA_LINE ? 33 : 1;
    // A trackpad's pinch arrives as a wheel with Ctrl, its two-finger drag as a wheel without.
    const kind: GestureKind =
      presetOf(this.ws.profile.getState()).trackpad && !modifiers.ctrl ? 'two fingers' : 'wheel';
    const action = actionFor(gestureMap(this.ws), kind, 0, modifiers);
    if (action === 'zoom') {
      const sign = this.direction(gestureName(kind, 0, modifiers));
      const fine = modifiers.ctrl && Math.abs(e.deltaY) < 50 && e.deltaMode === WheelEvent.DOM_DELTA_PIXEL;
      const step = (fine ? PINCH_STEP : WHEEL_STEP) ** this.ws.profile.getState().zoomSpeed;
      this.navigator.zoom(step ** ((-e.deltaY * unit * sign) / 100), x, y);
    } else if (action !== 'none') {
      this.navigator.begin(action, x, y);
      this.navigator.drag(
        action,
        -(modifiers.shift && !e.deltaX ? e.deltaY : e.deltaX) * unit,
        modifiers.shift && !e.deltaX ? 0 : -e.deltaY * unit,
        x,
        y,
      );
      this.navigator.end();
    }
  }
}

const rectangle = (a: { x: number; y: number }, b: { x: number; y: number }) => ({
  x: Math.min(a.x, b.x),
  y: Math.min(a.y, b.y),
  width: Math.abs(a.x - b.x),
  height: Math.abs(a.y - b.y),
});
