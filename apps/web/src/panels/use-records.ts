import type { RecordKind } from '@bathyscope/contracts/records';
import { useStore } from 'zustand';
import { recordAt, recordsIn, type Of } from '../state/record-store.ts';
import { useWorkspace } from './use-workspace.ts';

/** What is kept of a kind, in its order. */
export const useRecords = <D extends object>(kind: RecordKind<D>): readonly Of<D>[] =>
  useStore(useWorkspace().records, (state) => recordsIn(state, kind));

/** What is kept of one thing, of a kind that there is one of for each. */
export const useRecordAt = <D extends object>(kind: RecordKind<D>, key: string): Of<D> | undefined =>
  useStore(useWorkspace().records, (state) => recordAt(state, kind, key));
