import type { Reference } from '@bathyscope/core/references';
import { z } from 'zod';
import { name, recordKind, reference, type RecordKind } from './record-kind.ts';

/** A reference system, by what it was made of: its origin, what X runs along, on which side Y lies. */
export interface ReferenceSystem {
  name: string;
  of: Reference[];
}

export const referenceSystem: RecordKind<ReferenceSystem> = recordKind({
  name: 'reference-system',
  version: 1,
  document: z.object({ name, of: z.array(reference).min(1).max(3) }),
  references: ({ of }) => of,
  title: (system) => system.name,
});
