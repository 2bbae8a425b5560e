import { readKeptFigure, type KeptFigure } from '@bathyscope/core/ledger';
import { z } from 'zod';
import { recordKind, type RecordKind } from './record-kind.ts';

/** A measurement that is kept; what is read of it and how stands with the ledger. */
export type LedgerEntry = Omit<KeptFigure, 'id'>;

export const ledgerEntry: RecordKind<LedgerEntry> = recordKind({
  name: 'ledger-entry',
  version: 1,
  document: z.looseObject({}).transform((values, context): LedgerEntry => {
    const read = readKeptFigure({ ...values, id: '' });
    if (!read) {
      context.addIssue('This is no kept measurement.');
      return z.NEVER;
    }
    const { id: _, ...entry } = read;
    return entry;
  }),
  references: ({ of }) => of,
  title: (entry) => entry.name,
});
