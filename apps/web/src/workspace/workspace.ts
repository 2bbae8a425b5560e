import type { createAskState } from '../state/ask-store.ts';
import type { createCameraState } from '../state/camera-store.ts';
import type { createCutsState } from '../state/cut-store.ts';
import type { createDialogState } from '../state/dialog-store.ts';
import type { createInterferenceState } from '../state/interference-store.ts';
import type { createFilterState } from '../state/filter-store.ts';
import type { createFlatState } from '../state/flat-store.ts';
import type { createHistoryState } from '../state/history-store.ts';
import type { createKeyboardState } from '../state/keyboard-store.ts';
import type { createLibraryState } from '../state/library-store.ts';
import type { createMassState } from '../state/mass-store.ts';
import type { createLedgerState } from '../state/ledger-store.ts';
import type { createMeasureState } from '../state/measure-store.ts';
import type { createMenuState } from '../state/menu-store.ts';
import type { createModeState } from '../state/mode-store.ts';
import type { createModelState } from '../state/model-store.ts';
import type { createLookedUpState } from '../state/looked-up-store.ts';
import type { Notify } from '../state/notify.ts';
import type { createPickListState } from '../state/pick-list-store.ts';
import type { createPointerState } from '../state/pointer-store.ts';
import type { createRecordState } from '../state/record-store.ts';
import type { createReferenceState } from '../state/reference-store.ts';
import type { createSavedViewsState } from '../state/saved-view-store.ts';
import type { createSceneState } from '../state/scene-store.ts';
import type { createSectionState } from '../state/section-store.ts';
import type { createSelectionState } from '../state/selection-store.ts';
import type { createProfileState } from '../state/settings-store.ts';
import type { createStyleState } from '../state/style-store.ts';
import type { createSweepState, createTourState, createWaitingState } from '../state/player-stores.ts';
import type { createTrailState } from '../state/trail-store.ts';
import type { createWallState } from '../state/wall-store.ts';
import type { createVisibilityState } from '../state/visibility-store.ts';
import type { createKeepingState } from './keeping/keeping-state.ts';
import type { DerivedValues } from './derived/values.ts';
import type { CarriedFrom } from './revisions/other-revisions.ts';
import type { Players } from './players.ts';
import type { ModelSource } from './source/source.ts';

/** What a user set about the interface; one for the page, shared by its workspaces. */
export type Profile = ReturnType<typeof createProfileState>;

/**
 * Everything that one open model needs, and nothing that two would share. Each field
 * is a store of one concern.
 */
export interface Workspace {
  readonly profile: Profile;
  /** How the user is told something in passing. */
  readonly notify: Notify;
  /** Where the model comes from, and what is kept of it. */
  readonly source: ModelSource;
  readonly ask: ReturnType<typeof createAskState>;
  readonly camera: ReturnType<typeof createCameraState>;
  readonly cut: ReturnType<typeof createCutsState>;
  readonly dialog: ReturnType<typeof createDialogState>;
  readonly filter: ReturnType<typeof createFilterState>;
  readonly interference: ReturnType<typeof createInterferenceState>;
  readonly flat: ReturnType<typeof createFlatState>;
  readonly history: ReturnType<typeof createHistoryState>;
  readonly keeping: ReturnType<typeof createKeepingState>;
  readonly keyboard: ReturnType<typeof createKeyboardState>;
  readonly ledger: ReturnType<typeof createLedgerState>;
  readonly library: ReturnType<typeof createLibraryState>;
  readonly mass: ReturnType<typeof createMassState>;
  readonly measure: ReturnType<typeof createMeasureState>;
  readonly menu: ReturnType<typeof createMenuState>;
  readonly mode: ReturnType<typeof createModeState>;
  readonly model: ReturnType<typeof createModelState>;
  readonly lookedUp: ReturnType<typeof createLookedUpState>;
  readonly pickList: ReturnType<typeof createPickListState>;
  readonly pointer: ReturnType<typeof createPointerState>;
  readonly records: ReturnType<typeof createRecordState>;
  readonly reference: ReturnType<typeof createReferenceState>;
  readonly savedViews: ReturnType<typeof createSavedViewsState>;
  readonly scene: ReturnType<typeof createSceneState>;
  readonly section: ReturnType<typeof createSectionState>;
  readonly selection: ReturnType<typeof createSelectionState>;
  readonly style: ReturnType<typeof createStyleState>;
  readonly sweep: ReturnType<typeof createSweepState>;
  readonly tour: ReturnType<typeof createTourState>;
  readonly trail: ReturnType<typeof createTrailState>;
  readonly visibility: ReturnType<typeof createVisibilityState>;
  readonly wall: ReturnType<typeof createWallState>;
  readonly waiting: ReturnType<typeof createWaitingState>;
  /** What moves by itself: turns of the view, the sweep, the tour. */
  readonly players: Players;
  /** What follows from the stores. */
  readonly derived: DerivedValues<Workspace>;
  /** What became of other revisions on the one that is open. */
  readonly carried: { from: CarriedFrom };
}
