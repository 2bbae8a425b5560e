import { migratePath } from '@bathyscope/core/model';
import type { Reference } from '@bathyscope/core/references';
import { readSection, type Section } from '@bathyscope/core/section';
import { z } from 'zod';
import { name, recordKind, references, type RecordKind } from './record-kind.ts';

/** A section that was named and kept, and the components that it leaves whole. */
export interface KeptSection {
  name: string;
  section: Section;
  whole: Reference[];
}

export const keptSection: RecordKind<KeptSection> = recordKind({
  name: 'section',
  version: 1,
  document: z.object({ name, section: z.unknown().transform(readSection), whole: references }),
  // Before, what is left whole could be named by its path alone.
  migrations: {
    1: (old) => ({ ...old, whole: Array.isArray(old['whole']) ? old['whole'].map(migrateWhole) : [] }),
  },
  references: ({ whole }) => whole,
  title: (section) => section.name,
});

const migrateWhole = (whole: unknown): unknown =>
  typeof whole === 'string' ? { kind: 'component', component: migratePath(whole) } : whole;
