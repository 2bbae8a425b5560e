import {
  hingeAngle,
  isBehindEye,
  isBeyond,
  orbitFree,
  orbitTurntable,
  pan,
  project,
  retarget,
  roll,
  turnAboutHinge,
  unproject,
  zoomAbout,
  type ViewCamera,
} from '@bathyscope/core/camera';
import { boxDiagonal, length, subtract, boxCentre, type Box3, type Vec3 } from '@bathyscope/core/math';
import { stopTurning } from '../../workspace/view/turn-view.ts';
import type { GestureAction } from '../../state/gestures.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { activePane, limitsOf, modelFrame, paneAt } from '../../workspace/view/panes.ts';

/** What the navigator asks of the scene; pixels are those of the canvas. */
export interface SceneQuestions {
  pointAt(x: number, y: number): Vec3 | null;
  /** The point of the drawn model nearest to a pixel on the screen. */
  nearestPoint(x: number, y: number): Vec3 | null;
  /** Middle of what is picked, or null. */
  pickedPoint(): Vec3 | null;
  /** Of what is shown. */
  shownBox(): Box3;
  showPivot(visible: boolean): void;
  /** The pivot lies far off or behind the eye: say so and offer to bring it back. */
  offerPivot(why: string): void;
}

/** rad a pixel: half a turn for 500 px. The globe and the scene turn alike. */
export const ORBIT_GAIN = Math.PI / 500;
/** A pivot further from the model than this many of its diagonals is called far off. */
const FAR_OFF = 1.5;
/** The same of heights of the field. */
const FIELDS_AWAY = 10;
/** ms within which steps of zooming are those of one hand. */
const SAME_HAND = 1500;
/** Share of the way to the middle of the pane that a gliding pivot goes for each pixel of the drag. */
const GLIDE = 0.012;
/** px of a drag before its direction is taken for locking. */
const LOCK_AFTER = 6;
/** Share of the way to the cursor that a silhouette out of sight is brought in by one zoom step. */
const BRING_IN = 0.4;

/** Moves the camera by hand. Coordinates are px of the canvas; each drag works in the pane it began in. */
export class Navigator {
  private readonly ws: Workspace;
  private readonly scene: SceneQuestions;
  private held: Vec3 = [0, 0, 0];
  private anchor: Vec3 = [0, 0, 0];
  private travelled = { x: 0, y: 0 };
  /**
   * What the limits of zooming did not grant, as a logarithm, and when: a hand that turns round at once takes
   * that back first, one that does something else does not.
   */
  private refused = { log: 0, at: 0 };

  constructor(ws: Workspace, scene: SceneQuestions) {
    this.ws = ws;
    this.scene = scene;
  }

  /** Begins a drag at a pixel. */
  begin(action: GestureAction, x: number, y: number): void {
    stopTurning(this.ws);
    this.ws.camera.getState().setActive(paneAt(this.ws, x, y).index);
    this.travelled = { x: 0, y: 0 };
    if (action !== 'zoom') this.refused.log = 0;
    if (action === 'orbit' || action === 'roll') this.beginTurn(x, y);
    if (action === 'pan') this.held = this.scene.pointAt(x, y) ?? this.ws.camera.getState().pivot;
    if (action === 'zoom') this.anchor = this.anchorAt(x, y);
  }

  private beginTurn(x: number, y: number): void {
    const { setPivot } = this.ws.camera.getState();
    const policy = this.ws.profile.getState().pivotPolicy;
    const wanted =
      policy === 'cursor'
        ? this.scene.pointAt(x, y)
        : policy === 'picked'
          ? this.scene.pickedPoint()
          : policy === 'centre'
            ? boxCentre(this.scene.shownBox())
            : null;
    if (wanted) setPivot(wanted);
    this.scene.showPivot(true);
    this.checkPivot();
  }

  private checkPivot(): void {
    const { pivot, hinge } = this.ws.camera.getState();
    if (hinge) return;
    const box = this.scene.shownBox();
    const { camera, size } = activePane(this.ws);
    const at = project(camera, size, pivot);
    const off = at.x < 0 || at.y < 0 || at.x > size.width || at.y > size.height;
    if (isBehindEye(camera, pivot))
      this.scene.offerPivot('The pivot is behind the eye, so the model swings away.');
    else if (length(subtract(pivot, boxCentre(box))) > FAR_OFF * boxDiagonal(box))
      this.scene.offerPivot('The pivot is far off the model, so it swings wide.');
    else if (length(subtract(pivot, camera.target)) > FIELDS_AWAY * camera.height)
      this.scene.offerPivot('The pivot is far from what is in view, which swings away.');
    else if (off) this.scene.offerPivot('The pivot is outside the pane, so what is in view swings away.');
  }

  /** Goes on with a drag; (x, y) is where the hand is now. */
  drag(action: GestureAction, dx: number, dy: number, x: number, y: number): void {
    if (action === 'orbit') this.orbit(...this.lockedTo(dx, dy), x, y);
    if (action === 'pan') this.change((c) => pan(c, activePane(this.ws).size, dx, dy, this.held));
    if (action === 'zoom') {
      const factor = this.granted(1.006 ** (-dy * this.ws.profile.getState().zoomSpeed));
      this.change((c) => retarget(zoomAbout(c, this.anchor, factor), this.anchor));
    }
    if (action === 'roll') this.change((c) => roll(c, this.ws.camera.getState().pivot, -dx * ORBIT_GAIN));
  }

  end(): void {
    this.scene.showPivot(false);
  }

  /** While the lock is held, the component of the motion along the drag's first direction. */
  private lockedTo(dx: number, dy: number): [number, number] {
    const t = this.travelled;
    if (Math.hypot(t.x, t.y) < LOCK_AFTER) this.travelled = { x: t.x + dx, y: t.y + dy };
    if (!this.ws.mode.getState().locked) return [dx, dy];
    return Math.abs(this.travelled.x) >= Math.abs(this.travelled.y) ? [dx, 0] : [0, dy];
  }

  private orbit(dx: number, dy: number, x: number, y: number): void {
    const { pivot, hinge } = this.ws.camera.getState();
    const { orbitMode, pivotGlides } = this.ws.profile.getState();
    if (hinge) {
      const { index } = paneAt(this.ws, x, y);
      const { rect, size } = this.ws.camera.getState().panes[index];
      const { canvas } = this.ws.camera.getState();
      const to = { x: x - rect.x * canvas.width, y: y - rect.y * canvas.height };
      this.change((c) =>
        turnAboutHinge(c, hinge, hingeAngle(c, size, hinge, { x: to.x - dx, y: to.y - dy }, to, ORBIT_GAIN)),
      );
      return;
    }
    this.change((c) =>
      orbitMode === 'free'
        ? orbitFree(c, pivot, dx * ORBIT_GAIN, dy * ORBIT_GAIN)
        : orbitTurntable(c, pivot, dx * ORBIT_GAIN, dy * ORBIT_GAIN, modelFrame(this.ws).up),
    );
    if (pivotGlides) this.glide(Math.hypot(dx, dy));
  }

  /** Brings the pivot a little nearer to the middle of the pane. */
  private glide(px: number): void {
    const { pivot } = this.ws.camera.getState();
    const { size } = activePane(this.ws);
    this.change((c) => {
      const at = project(c, size, pivot);
      const share = 1 - (1 - GLIDE) ** px;
      return at.behind
        ? c
        : pan(c, size, (size.width / 2 - at.x) * share, (size.height / 2 - at.y) * share, pivot);
    });
  }

  /**
   * Zooms at a pixel: about the point under it, beside the model about the nearest point of the silhouette.
   */
  zoom(wanted: number, x: number, y: number): void {
    stopTurning(this.ws);
    const { setActive } = this.ws.camera.getState();
    setActive(paneAt(this.ws, x, y).index);
    const factor = this.granted(wanted);
    if (factor === 1) return;
    const anchor = this.anchorAt(x, y, factor > 1);
    this.change((c) => retarget(zoomAbout(c, anchor, factor), anchor));
    if (factor > 1) this.bringIntoSight(anchor, x, y);
  }

  /** As much of a zoom as has sense. */
  private granted(factor: number): number {
    const now = performance.now();
    if (now - this.refused.at > SAME_HAND) this.refused.log = 0;
    this.refused.at = now;
    const log = Math.log(factor);
    if (this.refused.log * log < 0) {
      const left = this.refused.log + log;
      const all = left * this.refused.log > 0;
      this.refused.log = all ? left : 0;
      return all ? 1 : Math.exp(left);
    }
    if (!isBeyond(activePane(this.ws).camera.height, factor, limitsOf(this.ws))) return factor;
    this.refused.log += log;
    return 1;
  }

  private anchorAt(x: number, y: number, aim = true): Vec3 {
    const on = this.scene.pointAt(x, y);
    if (on) return on;
    const nearest = aim ? this.scene.nearestPoint(x, y) : null;
    if (nearest) return nearest;
    const local = paneAt(this.ws, x, y);
    return unproject(activePane(this.ws).camera, activePane(this.ws).size, local.x, local.y);
  }

  /**
   * A model that was panned off the screen is brought towards the cursor while zooming
   * in, so that it is not lost.
   */
  private bringIntoSight(anchor: Vec3, x: number, y: number): void {
    const { size } = activePane(this.ws);
    const local = paneAt(this.ws, x, y);
    this.change((c) => {
      const at = project(c, size, anchor);
      const outside = at.x < 0 || at.y < 0 || at.x > size.width || at.y > size.height;
      return outside && !at.behind
        ? pan(c, size, (local.x - at.x) * BRING_IN, (local.y - at.y) * BRING_IN, anchor)
        : c;
    });
  }

  private change(move: (camera: ViewCamera) => ViewCamera): void {
    this.ws.camera.getState().setCamera(move(activePane(this.ws).camera));
  }
}
