import { migratePath } from '@bathyscope/core/model';
import type { Reference } from '@bathyscope/core/references';
import { isValues } from '@bathyscope/core/tables';
import { z } from 'zod';
import { name, recordKind, references, type RecordKind } from './record-kind.ts';

/** A picked set that was named and kept. */
export interface PickSet {
  name: string;
  items: Reference[];
}

export const pickSet: RecordKind<PickSet> = recordKind({
  name: 'pick-set',
  version: 1,
  document: z.object({ name, items: references }),
  // Before, paths could begin with the root's name.
  migrations: {
    1: (old) => ({ ...old, items: Array.isArray(old['items']) ? old['items'].map(liftItem) : [] }),
  },
  references: ({ items }) => items,
  title: (set) => set.name,
});

function liftItem(item: unknown): unknown {
  return isValues(item) && typeof item['component'] === 'string'
    ? { ...item, component: migratePath(item['component']) }
    : item;
}
