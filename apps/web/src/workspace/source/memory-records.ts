import type { KeptRecord, RecordAnswer, RecordChange, RecordEvent } from '@bathyscope/contracts';
import same from 'fast-deep-equal';
import type { RecordStore } from './source.ts';

/** As it comes back from a server. */
const copied = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** Records without a server: kept in memory, and changed by the same rules. Several pages may share one. */
export function memoryRecords(): RecordStore {
  const stored = new Map<string, KeptRecord>();
  const followers = new Set<(event: RecordEvent) => void>();
  const tell = ({ id, kind, rev }: KeptRecord) =>
    followers.forEach((hear) => hear({ model: '', record: id, kind, rev }));
  const change = ({ match, deleted, madeOn, ...wanted }: RecordChange): RecordAnswer => {
    const there = stored.get(wanted.id);
    const isThere =
      there &&
      same(there.document, wanted.document) &&
      there.position === wanted.position &&
      (there.deletedAt !== null) === deleted &&
      (madeOn ?? there.madeOn) === there.madeOn;
    if (isThere) return { id: wanted.id, outcome: 'stored', record: there };
    if (there && there.rev !== match) return { id: wanted.id, outcome: 'changed', record: there };
    const now = new Date().toISOString();
    const begun = there ?? { picture: null, madeOn: 1, author: null, createdAt: now, rev: 0 };
    const record: KeptRecord = {
      ...begun,
      ...copied(wanted),
      madeOn: madeOn ?? begun.madeOn,
      changedBy: null,
      changedAt: now,
      deletedAt: deleted ? now : null,
      rev: begun.rev + 1,
    };
    stored.set(record.id, record);
    tell(record);
    return { id: record.id, outcome: 'stored', record };
  };
  const list = (wanted: (record: KeptRecord) => boolean) =>
    [...stored.values()].filter(wanted).map((r) => copied(r));
  return {
    list: async (ids) => list((r) => (ids ? ids.includes(r.id) : r.deletedAt === null)),
    bin: async () => list((r) => r.deletedAt !== null),
    change: async (changes) => changes.map(change),
    purge: async (id) => void stored.delete(id),
    setPicture: async (id, png) => {
      const there = stored.get(id);
      if (!there) throw new Error('There is no such record.');
      const record = { ...there, picture: URL.createObjectURL(png), rev: there.rev + 1 };
      stored.set(id, record);
      tell(record);
    },
    follow: (hear) => {
      followers.add(hear);
      return () => followers.delete(hear);
    },
  };
}
