import { ledgerEntry, type RecallParts } from '@bathyscope/contracts/records';
import { withProjection, type ViewCamera } from '@bathyscope/core/camera';
import { boxCentre } from '@bathyscope/core/math';
import { NO_REFERENCES } from '@bathyscope/core/references';
import { NO_SECTION } from '@bathyscope/core/section';
import { DEFAULT_STYLE, type ViewStyle } from '@bathyscope/core/style';
import {
  type CameraPart,
  type PanePart,
  understoodViewState,
  type ViewState,
  VIEW_STATE_VERSION,
} from '@bathyscope/core/view-state';
import { isKeptDrawn } from './ledger.ts';
import { kept } from './records.ts';
import { homeView } from '../view/camera-targets.ts';
import { stylesToCarry } from '../view/styles.ts';
import { turnTo } from '../view/turn-view.ts';
import { paneId } from '../../state/camera-store.ts';
import type { Workspace } from '../workspace.ts';
import { mainPane } from '../view/panes.ts';
import { modelBox } from '../shown/components.ts';
import { isUncut, sectionNow } from '../cutting/section-now.ts';

const cameraPart = (camera: ViewCamera): CameraPart => ({ ...camera });

/** Of each kept figure whether it is drawn: who opens the view elsewhere sees the same. */
function figuresPart(ws: Workspace): Pick<ViewState, 'drawnFigures' | 'hiddenFigures'> {
  const figures = kept(ws, ledgerEntry);
  const ids = (drawn: boolean) => figures.filter((f) => isKeptDrawn(ws, f.id) === drawn).map((f) => f.id);
  return { drawnFigures: ids(true), hiddenFigures: ids(false) };
}

/** What is seen now, as a view-state document. */
export function currentState(ws: Workspace): ViewState {
  const { panes, layout, arrangement, pivot, hinge } = ws.camera.getState();
  const styles = stylesToCarry(ws);
  const parts = panes.map((p): PanePart => {
    const style = ws.style.getState().panes[p.id];
    return {
      mode: p.mode,
      camera: cameraPart(p.camera),
      ...(style && { style }),
      ...(isUncut(ws, p.id) && { uncut: true }),
    };
  });
  return {
    version: VIEW_STATE_VERSION,
    camera: { ...cameraPart(mainPane(ws).camera), pivot, ...(hinge && { hinge }) },
    ...((parts.length > 1 || parts[0].style || parts[0].uncut) && {
      panes: { layout, arrangement, panes: parts },
    }),
    visibility: { ...ws.visibility.getState().states },
    style: ws.style.getState().style,
    ...(styles.length && { styles }),
    reference: ws.reference.getState(),
    section: sectionNow(ws),
    ...figuresPart(ws),
  };
}

/** What single panes have of their own, by the ids that the panes of a layout always have. */
const stylesOf = ({ panes }: ViewState): Record<string, ViewStyle> =>
  Object.fromEntries((panes?.panes ?? []).flatMap(({ style }, i) => (style ? [[paneId(i), style]] : [])));
const uncutOf = ({ panes }: ViewState): string[] =>
  (panes?.panes ?? []).flatMap(({ uncut }, i) => (uncut ? [paneId(i)] : []));

const cameraOf = ({ pivot: _, hinge: __, ...camera }: CameraPart): ViewCamera => camera;

/** Puts a stored state in place at once, as a model is opened; what it does not say is as a fresh model. */
export function restoreState(ws: Workspace, state: ViewState | null): void {
  const { setPivot, setCamera, setLayout, setHinge } = ws.camera.getState();
  setHinge(state?.camera?.hinge ?? null);
  ws.flat.setState({ open: false, plane: null });
  ws.visibility.getState().set(state?.visibility ?? {});
  ws.visibility.setState({ peeking: false });
  ws.style.setState({
    style: state?.style ?? DEFAULT_STYLE.style,
    panes: state ? stylesOf(state) : {},
    carried: state?.styles ?? [],
  });
  ws.reference.setState(state?.reference ?? NO_REFERENCES);
  ws.ledger.setState({ drawn: state?.drawnFigures ?? [], hidden: state?.hiddenFigures ?? [] });
  ws.section.setState({
    ...(state?.section ?? NO_SECTION),
    active: null,
    before: null,
    uncutPanes: state ? uncutOf(state) : [],
  });
  setPivot(state?.camera?.pivot ?? boxCentre(modelBox(ws)));
  if (state?.panes)
    setLayout(
      state.panes.layout,
      state.panes.arrangement,
      state.panes.panes.map(({ mode, camera }) => ({ mode, camera: cameraOf(camera) })),
    );
  else setLayout('one', 'third angle');
  setCamera(state?.camera ? cameraOf(state.camera) : homeView(ws, mainPane(ws)), 0);
}

/** Recalls a saved state, of it only the wanted parts; the camera turns there smoothly. */
export function recallState(ws: Workspace, state: ViewState, parts: RecallParts): void {
  const { setPivot, setLayout, setHinge, layout, panes } = ws.camera.getState();
  if (parts.visibility && state.visibility) {
    ws.visibility.getState().set(state.visibility);
    if (state.styles) ws.style.setState({ carried: state.styles });
  }
  if (parts.style !== false && state.style) ws.style.setState({ style: state.style, panes: stylesOf(state) });
  if (parts.section !== false && state.section)
    ws.section.setState({ ...state.section, active: null, before: null, uncutPanes: uncutOf(state) });
  if (parts.visibility && state.hiddenFigures)
    ws.ledger.setState({ drawn: state.drawnFigures ?? [], hidden: state.hiddenFigures });
  if (!state.camera) return;
  const { projection } = parts.projection ? state.camera : panes[0].camera;
  if (parts.camera) {
    const wanted = state.panes?.layout ?? 'one';
    if (wanted !== layout)
      setLayout(
        wanted,
        state.panes?.arrangement ?? 'third angle',
        state.panes?.panes.map(({ mode, camera }) => ({ mode, camera: cameraOf(camera) })),
      );
    if (state.camera.pivot) setPivot(state.camera.pivot);
    if (state.camera.hinge) setHinge(state.camera.hinge);
    turnTo(ws, { ...cameraOf(state.camera), projection }, 0);
  } else turnTo(ws, withProjection(panes[0].camera, projection, ws.camera.getState().pivot), 0);
}

/**
 * A state as it was left; null where there is none, or none that this version can read: it stays as it is.
 */
export function lastState(document: unknown): ViewState | null {
  try {
    return document ? understoodViewState(document) : null;
  } catch {
    // Written by a newer version: the model opens at home, nothing is lost.
    return null;
  }
}
