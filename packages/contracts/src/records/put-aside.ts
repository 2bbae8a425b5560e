import { z } from 'zod';
import { recordKind, type RecordKind } from './record-kind.ts';

/**
 * That a record is put aside on a revision on which what it is of is not there any more; on others it stays.
 */
export interface PutAside {
  record: string;
  revision: number;
}

export const putAside: RecordKind<PutAside> = recordKind({
  name: 'put-aside',
  version: 1,
  document: z.object({ record: z.uuid(), revision: z.number().int().min(1) }),
  key: ({ record, revision }) => `${record} ${revision}`,
  title: () => 'put aside',
});
