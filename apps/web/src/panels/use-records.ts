import type { RecordKind } from '@bathyscope/contracts/records';
import { useCallback } from 'react';
import type { Of } from '../state/record-store.ts';
import { kept, keptAt } from '../workspace/keeping/records.ts';
import { useSeen } from './use-derived.ts';

/** What is kept of a kind, in its order. */
export const useRecords = <D extends object>(kind: RecordKind<D>): readonly Of<D>[] =>
  useSeen(useCallback((ws) => kept(ws, kind), [kind]));

/** What is kept of one thing, of a kind that there is one of for each. */
export const useRecordAt = <D extends object>(kind: RecordKind<D>, key: string): Of<D> | undefined =>
  useSeen(useCallback((ws) => keptAt(ws, kind, key), [kind, key]));
