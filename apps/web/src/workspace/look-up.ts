import type { Reference, Resolved } from '@bathyscope/core';
import { RECORD_KINDS } from '@bathyscope/contracts/records';
import { recordById, recordsIn } from '../state/record-store.ts';
import { resolve } from './references.ts';
import type { Workspace } from './workspace.ts';

/** What became of something that was kept on another revision, on the one that is open. */
export interface LookedUp {
  id: string;
  title: string;
  /** Of all that it is made of the worst. */
  status: Resolved['status'];
  references: readonly Reference[];
}

const WORSE: readonly Resolved['status'][] = ['found', 'probably found', 'lost'];

/** Looks up all that was kept of places and parts on other revisions; a kind says what its records are made of, and none is known here. */
export function lookUp(ws: Workspace): LookedUp[] {
  const state = ws.records.getState();
  const { partKeys, detail } = ws.model.getState();
  return [...RECORD_KINDS.values()].flatMap((kind) =>
    recordsIn(state, kind).flatMap((record): LookedUp[] => {
      if (recordById(state, kind.name, record.id)?.madeOn === detail?.revision) return [];
      const references = kind.references(record);
      const statuses = [
        ...references.map((r) => resolve(ws, r).status),
        ...kind.parts(record).map((part): Resolved['status'] => (partKeys.includes(part) ? 'found' : 'lost')),
      ];
      if (!statuses.length) return [];
      const status = statuses.reduce((a, b) => (WORSE.indexOf(b) > WORSE.indexOf(a) ? b : a));
      return [{ id: record.id, title: kind.title(record), status, references }];
    }),
  );
}
