import type { Reference } from '@bathyscope/core/references';
import { z } from 'zod';
import { recordKind, reference, type RecordKind } from './record-kind.ts';

/** Two components whose overlap is meant so: a thread, a press fit. */
export interface AcceptedClash {
  a: Reference;
  b: Reference;
}

export const acceptedClash: RecordKind<AcceptedClash> = recordKind({
  name: 'accepted-clash',
  version: 1,
  document: z.object({ a: reference, b: reference }),
  references: ({ a, b }) => [a, b],
  title: () => 'overlap that is meant so',
});
