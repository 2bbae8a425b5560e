import type { Vec3 } from '@bathyscope/core/math';
import { placeThere } from '@bathyscope/core/revisions';
import { z } from 'zod';
import { point, recordKind, type RecordKind } from './record-kind.ts';

/** A hollow that is marked as sealed, by a place in it, mm. */
export interface SealedHollow {
  at: Vec3;
}

export const sealedHollow: RecordKind<SealedHollow> = recordKind({
  name: 'sealed-hollow',
  version: 1,
  document: z.object({ at: point }),
  carried: ({ at }, to) => ({ at: placeThere(at, to) }),
  title: () => 'sealed hollow',
});
