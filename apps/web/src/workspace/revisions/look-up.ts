import { worseStatus, type Reference, type Resolved } from '@bathyscope/core/references';
import { referencesIn } from '@bathyscope/core/revisions';
import { RECORD_KINDS, type RecordKind } from '@bathyscope/contracts/records';
import type { Entry } from '../../state/record-store.ts';
import { entriesOf } from './carry-over.ts';
import { resolve } from '../measuring/references.ts';
import type { Workspace } from '../workspace.ts';

/** What became of something that was kept on another revision, on the one that is open. */
export interface LookedUp {
  id: string;
  kind: RecordKind;
  title: string;
  /** Revision that it was kept on. */
  madeOn: number;
  /** Of all that it is made of the worst. */
  status: Resolved['status'];
  /** It is put aside on this revision. */
  aside: boolean;
  /**
   * As they were kept, and as they read here; of what is of a component or part by name alone there are none
   * here where that is lost.
   */
  was: readonly Reference[];
  references: readonly Reference[];
}

/** What was kept on other revisions, and what was taken over from them without being put right in all. */
const looked = (ws: Workspace): Entry[] => {
  const { revision } = ws.model.getState().detail ?? {};
  return entriesOf(ws).filter(
    ({ record, stored }) => record.madeOn !== revision || referencesIn(stored).some((r) => r.became),
  );
};

/**
 * What became of all that was kept of places and parts on other revisions; a kind says what its records are
 * made of, and none is known here.
 */
export function lookUp(ws: Workspace): LookedUp[] {
  const { partKeys } = ws.model.getState();
  return looked(ws).flatMap(({ record, stored, carried }): LookedUp[] => {
    const kind = RECORD_KINDS.get(record.kind)!;
    const was = kind.references(stored!);
    const found = { id: record.id, kind, title: kind.title(stored!), madeOn: record.madeOn, was };
    if (carried) {
      const { status, aside, read } = carried;
      return status ? [{ ...found, status, aside, references: read ? kind.references(read) : [] }] : [];
    }
    // Where the revisions could not be compared, each says for itself where it is.
    const statuses = [
      ...was.map((r) => resolve(ws, r).status),
      ...kind.parts(stored!).map((part): Resolved['status'] => (partKeys.includes(part) ? 'found' : 'lost')),
    ];
    if (!statuses.length) return [];
    const status = statuses.reduce(worseStatus);
    return [{ ...found, status, aside: false, references: was }];
  });
}
