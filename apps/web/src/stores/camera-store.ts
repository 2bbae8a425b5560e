import { homeOrientation, type Pane, type Vec3, type ViewCamera } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';

export interface PaneState {
  id: string;
  camera: ViewCamera;
  size: Pane;
}

interface CameraState {
  /** All panes of the canvas; commands act on the one under the cursor, the first until there are more. */
  panes: PaneState[];
  /** The point the model turns about. */
  pivot: Vec3;
  setCamera: (camera: ViewCamera, pane?: number) => void;
  setSize: (size: Pane, pane?: number) => void;
  setPivot: (pivot: Vec3) => void;
}

const START: ViewCamera = { target: [0, 0, 0], orientation: homeOrientation(), height: 100 };

export const cameraStore = createStore<CameraState>()((set) => {
  const change = (pane: number, values: Partial<PaneState>) =>
    set((s) => ({ panes: s.panes.map((p, i) => (i === pane ? { ...p, ...values } : p)) }));
  return {
    panes: [{ id: 'main', camera: START, size: { width: 800, height: 600 } }],
    pivot: [0, 0, 0],
    setCamera: (camera, pane = 0) => change(pane, { camera }),
    setSize: (size, pane = 0) => change(pane, { size }),
    setPivot: (pivot) => set({ pivot }),
  };
});

export const mainPane = (): PaneState => cameraStore.getState().panes[0];
