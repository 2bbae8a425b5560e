import type { Workspace } from '../../workspace/workspace.ts';

/** ms: long enough to see where it went. */
const SHOWN = 2000;

/** Shows the pivot while a drag turns about it, and for a while when it was set. */
export class PivotMark {
  private held = false;
  private timer: ReturnType<typeof setTimeout> | 0 = 0;
  private readonly show: (visible: boolean) => void;
  private readonly off: () => void;

  /** @param show draws it or not */
  constructor(ws: Workspace, show: (visible: boolean) => void) {
    this.show = show;
    this.off = ws.camera.subscribe((now, before) => {
      if (now.pivot !== before.pivot) this.flash();
    });
  }

  /** While a drag lasts. */
  hold(held: boolean): void {
    this.held = held;
    this.show(held || this.timer !== 0);
  }

  /** Also for a pivot that was set where it is. */
  flash(): void {
    this.show(true);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      this.timer = 0;
      if (!this.held) this.show(false);
    }, SHOWN);
  }

  dispose(): void {
    clearTimeout(this.timer);
    this.off();
  }
}
