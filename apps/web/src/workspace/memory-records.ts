import type { KeptRecord, RecordAnswer, RecordChange, RecordEvent } from '@bathyscope/contracts';
import same from 'fast-deep-equal';
import type { RecordStore } from './source.ts';

/** Records without a server: kept in memory, and changed by the same rules. Several pages may share one. */
export function memoryRecords(): RecordStore {
  const stored = new Map<string, KeptRecord>();
  const followers = new Set<(event: RecordEvent) => void>();
  const change = ({ match, deleted, ...wanted }: RecordChange): RecordAnswer => {
    const there = stored.get(wanted.id);
    const isThere =
      there && same(there.document, wanted.document) && there.position === wanted.position && (there.deletedAt !== null) === deleted;
    if (isThere) return { id: wanted.id, outcome: 'stored', record: there };
    if (there && there.rev !== match) return { id: wanted.id, outcome: 'changed', record: there };
    const now = new Date().toISOString();
    const begun = there ?? { madeOn: 1, author: null, createdAt: now, rev: 0 };
    const record: KeptRecord = {
      ...begun,
      ...structuredClone(wanted),
      changedBy: null,
      changedAt: now,
      deletedAt: deleted ? now : null,
      rev: begun.rev + 1,
    };
    stored.set(record.id, record);
    followers.forEach((hear) => hear({ model: '', record: record.id, kind: record.kind, rev: record.rev }));
    return { id: record.id, outcome: 'stored', record };
  };
  const list = (wanted: (record: KeptRecord) => boolean) => [...stored.values()].filter(wanted).map((r) => structuredClone(r));
  return {
    list: async (ids) => list((r) => (ids ? ids.includes(r.id) : r.deletedAt === null)),
    bin: async () => list((r) => r.deletedAt !== null),
    change: async (changes) => changes.map(change),
    purge: async (id) => void stored.delete(id),
    follow: (hear) => {
      followers.add(hear);
      return () => followers.delete(hear);
    },
  };
}
