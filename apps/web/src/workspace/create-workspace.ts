import { createAskState } from '../state/ask-store.ts';
import { createCameraState } from '../state/camera-store.ts';
import { createCutsState } from '../state/cut-store.ts';
import { createDialogState } from '../state/dialog-store.ts';
import { createFilterState } from '../state/filter-store.ts';
import { createInterferenceState } from '../state/interference-store.ts';
import { createFlatState } from '../state/flat-store.ts';
import { createHistoryState } from '../state/history-store.ts';
import { createKeyboardState } from '../state/keyboard-store.ts';
import { createLibraryState } from '../state/library-store.ts';
import { createLookedUpState } from '../state/looked-up-store.ts';
import { createMassState } from '../state/mass-store.ts';
import { createLedgerState } from '../state/ledger-store.ts';
import { createMeasureState } from '../state/measure-store.ts';
import { createMenuState } from '../state/menu-store.ts';
import { createModeState } from '../state/mode-store.ts';
import { createModelState } from '../state/model-store.ts';
import { NOTIFY_NOBODY, type Notify } from '../state/notify.ts';
import { createPickListState } from '../state/pick-list-store.ts';
import { createSweepState, createTourState, createWaitingState } from '../state/player-stores.ts';
import { createPointerState } from '../state/pointer-store.ts';
import { createRecordState } from '../state/record-store.ts';
import { createReferenceState } from '../state/reference-store.ts';
import { createSavedViewsState } from '../state/saved-view-store.ts';
import { createSceneState } from '../state/scene-store.ts';
import { createSectionState } from '../state/section-store.ts';
import { createSelectionState } from '../state/selection-store.ts';
import { createStyleState } from '../state/style-store.ts';
import { createTrailState } from '../state/trail-store.ts';
import { createWallState } from '../state/wall-store.ts';
import { createVisibilityState } from '../state/visibility-store.ts';
import { createKeepingState } from './keeping/keeping-state.ts';
import { DerivedValues } from './derived/values.ts';
import { nothingCarried } from './revisions/other-revisions.ts';
import { createPlayers } from './players.ts';
import type { ModelSource } from './source/source.ts';
import type { Profile, Workspace } from './workspace.ts';

/** A workspace with nothing in it yet. A second model in the page is a second call of this. */
export const createWorkspace = (
  source: ModelSource,
  profile: Profile,
  notify: Notify = NOTIFY_NOBODY,
): Workspace => {
  const stores = {
    profile,
    notify,
    source,
    ask: createAskState(),
    camera: createCameraState(),
    cut: createCutsState(),
    dialog: createDialogState(),
    filter: createFilterState(),
    interference: createInterferenceState(),
    flat: createFlatState(),
    history: createHistoryState(),
    keeping: createKeepingState(),
    keyboard: createKeyboardState(),
    ledger: createLedgerState(),
    library: createLibraryState(),
    lookedUp: createLookedUpState(),
    mass: createMassState(),
    measure: createMeasureState(),
    menu: createMenuState(),
    mode: createModeState(),
    model: createModelState(),
    pickList: createPickListState(),
    pointer: createPointerState(),
    records: createRecordState(),
    reference: createReferenceState(),
    savedViews: createSavedViewsState(),
    scene: createSceneState(),
    section: createSectionState(),
    selection: createSelectionState(),
    style: createStyleState(),
    sweep: createSweepState(),
    tour: createTourState(),
    trail: createTrailState(),
    visibility: createVisibilityState(),
    wall: createWallState(),
    waiting: createWaitingState(),
    players: createPlayers(),
    carried: { from: nothingCarried() },
  };
  return { ...stores, derived: new DerivedValues<Workspace>(stores) };
};
