import { carryState } from '@bathyscope/core/revisions';
import { isValues } from '@bathyscope/core/tables';
import { mergeKept } from '@bathyscope/core/view-state';
import { z } from 'zod';
import { name, recordKind, type RecordKind } from './record-kind.ts';

/** Which parts of a view are taken when it is recalled. */
export interface RecallParts {
  camera: boolean;
  projection: boolean;
  visibility: boolean;
  style: boolean;
  section: boolean;
}

/** A view that was named and kept. */
export interface SavedView {
  name: string;
  /** The number key that recalls it. */
  slot: number | null;
  recall: RecallParts;
  /**
   * A view state of this version, or of another: what it is to whoever reads it, `understoodViewState` tells.
   */
  state: { version: number; [part: string]: unknown };
  /** Of the model, that the state was made on. */
  revision: number;
}

export const RECALL_ALL: RecallParts = {
  camera: true,
  projection: true,
  visibility: true,
  style: true,
  section: true,
};
export const MOST_SLOTS = 9;

const part = z.boolean().default(true);

export const savedView: RecordKind<SavedView> = recordKind({
  name: 'saved-view',
  version: 1,
  document: z.object({
    name,
    slot: z.number().int().min(1).max(MOST_SLOTS).nullable().catch(null),
    recall: z
      .object({ camera: part, projection: part, visibility: part, style: part, section: part })
      .catch(RECALL_ALL),
    state: z.looseObject({ version: z.number().int() }),
    revision: z.number().int().min(1),
  }),
  merge: (base, mine, theirs) => whole(mergeKept(bound(base), bound(mine), bound(theirs))),
  carried: (view, to) => ({ ...view, state: carryState(view.state, to) }),
  isNewer: (there, change) => versionOf(there) > versionOf(change),
  title: (view) => view.name,
});

const versionOf = (document: unknown): number => {
  const state = isValues(document) ? document['state'] : null;
  return isValues(state) && typeof state['version'] === 'number' ? state['version'] : 0;
};

/**
 * Of two who replaced a view at once one wins: the camera of one with the section of the
 * other would be nobody's view.
 */
const bound = (document: unknown): unknown => {
  if (!isValues(document)) return document;
  const { state, revision, ...rest } = document;
  return { ...rest, seen: [state, revision] };
};
const whole = (document: unknown): unknown => {
  if (!isValues(document) || !Array.isArray(document['seen'])) return document;
  const { seen, ...rest } = document;
  return { ...rest, state: (seen as unknown[])[0], revision: (seen as unknown[])[1] };
};
