import type { RecallParts } from '@bathyscope/contracts';
import { boxCentre, DEFAULT_STYLE, NO_REFERENCES, NO_SECTION, withProjection, type CameraPart, type PanePart, type ViewCamera, type ViewState, type ViewStyle } from '@bathyscope/core';
import { homeView } from '../commands/camera-targets.ts';
import { turnTo } from '../scene/camera-motion.ts';
import { cameraStore, mainPane, paneId } from '../stores/camera-store.ts';
import { flatStore } from '../stores/flat-store.ts';
import { modelBox } from '../stores/model-store.ts';
import { referenceStore } from '../stores/reference-store.ts';
import { isUncut, sectionNow, sectionStore } from '../stores/section-store.ts';
import { styleStore } from '../stores/style-store.ts';
import { visibilityStore } from '../stores/visibility-store.ts';

const cameraPart = (camera: ViewCamera): CameraPart => ({ ...camera });

/** What is seen now, as a view-state document. */
export function currentState(): ViewState {
  const { panes, layout, arrangement, pivot } = cameraStore.getState();
  const parts = panes.map((p): PanePart => {
    const style = styleStore.getState().panes[p.id];
    return { mode: p.mode, camera: cameraPart(p.camera), ...(style && { style }), ...(isUncut(p.id) && { uncut: true }) };
  });
  return {
    version: 2,
    camera: { ...cameraPart(mainPane().camera), pivot },
    ...((parts.length > 1 || parts[0].style || parts[0].uncut) && { panes: { layout, arrangement, panes: parts } }),
    visibility: { ...visibilityStore.getState().states },
    style: styleStore.getState().style,
    reference: referenceStore.getState(),
    section: sectionNow(),
  };
}

/** What single panes have of their own, by the ids that the panes of a layout always have. */
const stylesOf = ({ panes }: ViewState): Record<string, ViewStyle> => Object.fromEntries((panes?.panes ?? []).flatMap(({ style }, i) => (style ? [[paneId(i), style]] : [])));
const uncutOf = ({ panes }: ViewState): string[] => (panes?.panes ?? []).flatMap(({ uncut }, i) => (uncut ? [paneId(i)] : []));

const cameraOf = ({ pivot: _, ...camera }: CameraPart): ViewCamera => camera;

/** Puts a stored state in place at once, as a model is opened; what it does not say is as a fresh model. */
export function restoreState(state: ViewState | null): void {
  const { setPivot, setCamera, setLayout, setHinge } = cameraStore.getState();
  setHinge(null);
  flatStore.setState({ open: false, plane: null });
  visibilityStore.getState().set(state?.visibility ?? {});
  visibilityStore.setState({ peeking: false });
  styleStore.setState({ style: state?.style ?? DEFAULT_STYLE.style, panes: state ? stylesOf(state) : {} });
  referenceStore.setState(state?.reference ?? NO_REFERENCES);
  sectionStore.setState({ ...(state?.section ?? NO_SECTION), active: null, before: null, uncutPanes: state ? uncutOf(state) : [] });
  setPivot(state?.camera?.pivot ?? boxCentre(modelBox()));
  if (state?.panes) setLayout(state.panes.layout, state.panes.arrangement, state.panes.panes.map(({ mode, camera }) => ({ mode, camera: cameraOf(camera) })));
  else setLayout('one', 'third angle');
  setCamera(state?.camera ? cameraOf(state.camera) : homeView(mainPane()), 0);
}

/** Recalls a saved state, of it only the wanted parts; the camera turns there smoothly. */
export function recallState(state: ViewState, parts: RecallParts): void {
  const { setPivot, setLayout, layout, panes } = cameraStore.getState();
  if (parts.visibility && state.visibility) visibilityStore.getState().set(state.visibility);
  if (parts.style !== false && state.style) styleStore.setState({ style: state.style, panes: stylesOf(state) });
  if (parts.section !== false && state.section) sectionStore.setState({ ...state.section, active: null, before: null, uncutPanes: uncutOf(state) });
  if (!state.camera) return;
  const { projection } = parts.projection ? state.camera : panes[0].camera;
  if (parts.camera) {
    const wanted = state.panes?.layout ?? 'one';
    if (wanted !== layout) setLayout(wanted, state.panes?.arrangement ?? 'third angle', state.panes?.panes.map(({ mode, camera }) => ({ mode, camera: cameraOf(camera) })));
    if (state.camera.pivot) setPivot(state.camera.pivot);
    turnTo({ ...cameraOf(state.camera), projection }, 0);
  } else turnTo(withProjection(panes[0].camera, projection, cameraStore.getState().pivot), 0);
}
