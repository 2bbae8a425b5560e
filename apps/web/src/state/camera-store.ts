import {
  DEFAULT_LENS,
  defaultModes,
  homeOrientationOf,
  linkedView,
  mainOfLinked,
  paneRects,
  pipOrientation,
  sameOrientation,
  FRAMES,
  type Arrangement,
  type Pane,
  type PaneLayout,
  type PaneMode,
  type PaneRect,
  type UpAxis,
  type ViewCamera,
} from '@bathyscope/core/camera';
import type { Vec3 } from '@bathyscope/core/math';
import type { HingePart } from '@bathyscope/core/view-state';
import { createStore } from './tracked-store.ts';

export interface PaneState {
  id: string;
  camera: ViewCamera;
  /** px */
  size: Pane;
  /** Shares of the canvas. */
  rect: PaneRect;
  mode: PaneMode;
}

export type NamedHinge = HingePart;

interface CameraState {
  layout: PaneLayout;
  arrangement: Arrangement;
  /** All panes of the canvas, the main one first. */
  panes: PaneState[];
  /** The pane under the cursor, which takes commands. */
  active: number;
  /** px */
  canvas: Pane;
  upAxis: UpAxis;
  /** The point the model turns about. */
  pivot: Vec3;
  /** What it turns about instead, when chosen. */
  hinge: NamedHinge | null;
  setCamera: (camera: ViewCamera, pane?: number) => void;
  setCanvas: (canvas: Pane) => void;
  setPivot: (pivot: Vec3) => void;
  setHinge: (hinge: NamedHinge | null) => void;
  setActive: (pane: number) => void;
  setUpAxis: (upAxis: UpAxis) => void;
  setLayout: (
    layout: PaneLayout,
    arrangement: Arrangement,
    panes?: { mode: PaneMode; camera: ViewCamera }[],
  ) => void;
  setMode: (pane: number, mode: PaneMode) => void;
}

const START: ViewCamera = {
  projection: 'orthographic',
  target: [0, 0, 0],
  orientation: homeOrientationOf('z'),
  height: 100,
  lens: DEFAULT_LENS,
};
const CANVAS: Pane = { width: 800, height: 600 };

const sizeOf = (rect: PaneRect, canvas: Pane): Pane => ({
  width: rect.width * canvas.width,
  height: rect.height * canvas.height,
});

export const paneId = (index: number): string => (index === 0 ? 'main' : `pane ${index + 1}`);

function makePanes(
  s: Pick<CameraState, 'layout' | 'arrangement' | 'canvas'>,
  contents: readonly { mode: PaneMode; camera: ViewCamera }[],
): PaneState[] {
  const modes = defaultModes(s.layout, s.arrangement);
  return paneRects(s.layout, s.arrangement).map((rect, i) => {
    const { mode, camera } = contents[i] ?? { mode: modes[i], camera: contents[0].camera };
    return { id: paneId(i), camera, mode, rect, size: sizeOf(rect, s.canvas) };
  });
}

/** mm a pixel are the same in a linked pane as in the main one. */
const scaleOf = (pane: PaneState, main: PaneState): number => pane.size.height / main.size.height;

/** Brings every linked pane to where the main one puts it. */
function relink(panes: PaneState[]): PaneState[] {
  const [main] = panes;
  return panes.map((p) =>
    p.mode.kind === 'linked' ? { ...p, camera: linkedView(main.camera, p.mode.side, scaleOf(p, main)) } : p,
  );
}

/**
 * The panes after one camera moved: a linked pane takes the main one along, a fixed one that
 * was turned becomes free.
 */
function moveCamera(panes: PaneState[], index: number, camera: ViewCamera): PaneState[] {
  const pane = panes[index];
  if (!pane) return panes;
  const { mode } = pane;
  if (mode.kind === 'linked')
    return moveCamera(panes, 0, mainOfLinked(camera, mode.side, scaleOf(pane, panes[0])));
  const turned = mode.kind === 'fixed' && !sameOrientation(camera.orientation, pane.camera.orientation);
  const next = panes.map((p, i) =>
    i === index ? { ...p, camera, mode: turned ? ({ kind: 'free' } as const) : mode } : p,
  );
  return index === 0 ? relink(next) : next;
}

export const createCameraState = () =>
  createStore<CameraState>()((set, get) => ({
    layout: 'one',
    arrangement: 'third angle',
    panes: makePanes({ layout: 'one', arrangement: 'third angle', canvas: CANVAS }, [
      { mode: { kind: 'free' }, camera: START },
    ]),
    active: 0,
    canvas: CANVAS,
    upAxis: 'z',
    pivot: [0, 0, 0],
    hinge: null,
    setCamera: (camera, pane = get().active) => set((s) => ({ panes: moveCamera(s.panes, pane, camera) })),
    setCanvas: (canvas) =>
      set((s) => ({ canvas, panes: relink(s.panes.map((p) => ({ ...p, size: sizeOf(p.rect, canvas) }))) })),
    setPivot: (pivot) => set({ pivot }),
    setHinge: (hinge) => set({ hinge }),
    setActive: (active) => active !== get().active && set({ active }),
    setUpAxis: (upAxis) => set((s) => ({ upAxis, panes: relink(refix(s.panes, upAxis)) })),
    setLayout: (layout, arrangement, contents) =>
      set((s) => {
        const given = contents ?? [s.panes[0]];
        return {
          layout,
          arrangement,
          active: 0,
          panes: relink(refix(makePanes({ layout, arrangement, canvas: s.canvas }, given), s.upAxis)),
        };
      }),
    setMode: (index, mode) =>
      set((s) => ({
        panes: relink(
          refix(
            s.panes.map((p, i) => (i === index ? { ...p, mode } : p)),
            s.upAxis,
          ),
        ),
      })),
  }));

/** Turns every fixed pane to its direction. */
function refix(panes: PaneState[], upAxis: UpAxis): PaneState[] {
  return panes.map((p) =>
    p.mode.kind === 'fixed'
      ? { ...p, camera: { ...p.camera, orientation: pipOrientation(p.mode.pip, FRAMES[upAxis]) } }
      : p,
  );
}
