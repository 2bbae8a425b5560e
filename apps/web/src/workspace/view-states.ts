import type { RecallParts } from '@bathyscope/contracts';
import { boxCentre, DEFAULT_STYLE, NO_REFERENCES, NO_SECTION, withProjection, type CameraPart, type ViewCamera, type ViewState } from '@bathyscope/core';
import { homeView } from '../commands/camera-targets.ts';
import { turnTo } from '../scene/camera-motion.ts';
import { cameraStore, mainPane } from '../stores/camera-store.ts';
import { flatStore } from '../stores/flat-store.ts';
import { modelBox } from '../stores/model-store.ts';
import { referenceStore } from '../stores/reference-store.ts';
import { sectionNow, sectionStore } from '../stores/section-store.ts';
import { styleStore } from '../stores/style-store.ts';
import { visibilityStore } from '../stores/visibility-store.ts';

const cameraPart = (camera: ViewCamera): CameraPart => ({ ...camera });

/** What is seen now, as a view-state document. */
export function currentState(): ViewState {
  const { panes, layout, arrangement, pivot } = cameraStore.getState();
  return {
    version: 2,
    camera: { ...cameraPart(mainPane().camera), pivot },
    ...(panes.length > 1 && { panes: { layout, arrangement, panes: panes.map((p) => ({ mode: p.mode, camera: cameraPart(p.camera) })) } }),
    visibility: { ...visibilityStore.getState().states },
    style: styleStore.getState().style,
    reference: referenceStore.getState(),
    section: sectionNow(),
  };
}

const cameraOf = ({ pivot: _, ...camera }: CameraPart): ViewCamera => camera;

/** Puts a stored state in place at once, as a model is opened; what it does not say is as a fresh model. */
export function restoreState(state: ViewState | null): void {
  const { setPivot, setCamera, setLayout, setHinge } = cameraStore.getState();
  setHinge(null);
  flatStore.setState({ open: false, plane: null });
  visibilityStore.getState().set(state?.visibility ?? {});
  visibilityStore.setState({ peeking: false });
  styleStore.setState({ style: state?.style ?? DEFAULT_STYLE.style, panes: {} });
  referenceStore.setState(state?.reference ?? NO_REFERENCES);
  sectionStore.setState({ ...(state?.section ?? NO_SECTION), active: null, before: null, uncutPanes: [] });
  setPivot(state?.camera?.pivot ?? boxCentre(modelBox()));
  if (state?.panes) setLayout(state.panes.layout, state.panes.arrangement, state.panes.panes.map(({ mode, camera }) => ({ mode, camera: cameraOf(camera) })));
  else setLayout('one', 'third angle');
  setCamera(state?.camera ? cameraOf(state.camera) : homeView(mainPane()), 0);
}

/** Recalls a saved state, of it only the wanted parts; the camera turns there smoothly. */
export function recallState(state: ViewState, parts: RecallParts): void {
  const { setPivot, setLayout, layout, panes } = cameraStore.getState();
  if (parts.visibility && state.visibility) visibilityStore.getState().set(state.visibility);
  if (parts.style !== false && state.style) styleStore.setState({ style: state.style });
  if (parts.section !== false && state.section) sectionStore.setState({ ...state.section, active: null, before: null });
  if (!state.camera) return;
  const { projection } = parts.projection ? state.camera : panes[0].camera;
  if (parts.camera) {
    const wanted = state.panes?.layout ?? 'one';
    if (wanted !== layout) setLayout(wanted, state.panes?.arrangement ?? 'third angle', state.panes?.panes.map(({ mode, camera }) => ({ mode, camera: cameraOf(camera) })));
    if (state.camera.pivot) setPivot(state.camera.pivot);
    turnTo({ ...cameraOf(state.camera), projection }, 0);
  } else turnTo(withProjection(panes[0].camera, projection, cameraStore.getState().pivot), 0);
}
