import type { KeptRecord, RecordAnswer } from '@bathyscope/contracts';
import { lifted, putAside, RECORD_KINDS, type RecordKind } from '@bathyscope/contracts/records';
import type { Resolved } from '@bathyscope/core/references';
import { mergeKept } from '@bathyscope/core/view-state';
import same from 'fast-deep-equal';
import { createStore } from './tracked-store.ts';

/** A document of a record, with the record's identifier. */
export type Of<D extends object> = D & { readonly id: string };

/** A change that the server has not stored yet. */
export interface Unsent {
  /** As the server had it when it was changed here; null for a new one. */
  base: KeptRecord | null;
  mine: KeptRecord;
  /** Where someone else changed the same, theirs stays: of what is undone. */
  yields: boolean;
}

export interface Entry {
  record: KeptRecord;
  /** What this version reads of its document, as it is stored; null where it is none, or lies in the bin. */
  stored: Of<object> | null;
  /**
   * The same as it reads on the revision that is open; null also where nothing of it is left
   * there, or it was put aside.
   */
  read: Of<object> | null;
  /** What became of it, of what was kept on another revision and looked up. */
  carried?: Carried;
}

/**
 * A document as it reads on another revision, and how well what it is of was found there; null
 * where it is of no place.
 */
interface Carried {
  read: object | null;
  status: Resolved['status'] | null;
  /** It was put aside there. */
  aside: boolean;
}

/**
 * Reads records of other revisions on the one that is open; undefined where there is nothing to look up, or
 * nothing was yet. @param isThere whether something of a kind is kept of a thing
 */
export type Carry = (
  record: KeptRecord,
  read: object,
  isThere: <D extends object>(kind: RecordKind<D>, key: string) => boolean,
) => Carried | undefined;

/** The records of a kind. */
export interface Shelf {
  /** Those in the bin included, as far as they are known. */
  entries: ReadonlyMap<string, Entry>;
  /** Those that are kept, in their order. */
  list: readonly Of<object>[];
  byKey: ReadonlyMap<string, Of<object>>;
}

export interface RecordState {
  shelves: ReadonlyMap<string, Shelf>;
  unsent: ReadonlyMap<string, Unsent>;
  carry: Carry | null;
}

export const NO_RECORDS: RecordState = { shelves: new Map(), unsent: new Map(), carry: null };

/** What is kept of the model, and what of that the server has not stored yet. */
export const createRecordState = () => createStore<RecordState>()(() => NO_RECORDS);

const NONE: readonly never[] = [];

/** What is kept of a kind, in its order; the same list as long as nothing of it changes. */
export const recordsOn = <D extends object>(shelf: Shelf | undefined, _: RecordKind<D>): readonly Of<D>[] =>
  (shelf?.list as readonly Of<D>[] | undefined) ?? NONE;

/** Of a kind that there is one of for each thing: what is kept of one. */
export const recordOn = <D extends object>(
  shelf: Shelf | undefined,
  _: RecordKind<D>,
  key: string,
): Of<D> | undefined => shelf?.byKey.get(key) as Of<D> | undefined;

/** A record as it is here, also when it lies in the bin. */
export const recordById = (state: RecordState, kind: string, id: string): KeptRecord | undefined =>
  state.shelves.get(kind)?.entries.get(id)?.record;

/**
 * Puts what the server has to what is here: what was changed here and is not stored yet stays, put to what
 * others made of it.
 */
export function taken(state: RecordState, records: readonly KeptRecord[]): RecordState {
  const unsent = new Map(state.unsent);
  const now = records.map((theirs) => {
    const waiting = unsent.get(theirs.id);
    if (!waiting) return theirs;
    const mine = merged(waiting, theirs);
    if (isSame(mine, theirs)) unsent.delete(theirs.id);
    else unsent.set(theirs.id, { ...waiting, base: theirs, mine });
    return mine;
  });
  return { ...state, shelves: shelved(state, now), unsent };
}

/** Puts changes made here, which are to be sent. */
export function wanted(state: RecordState, records: readonly KeptRecord[], yields: boolean): RecordState {
  const unsent = new Map(state.unsent);
  for (const mine of records) {
    const waiting = unsent.get(mine.id);
    const base = waiting ? waiting.base : (recordById(state, mine.kind, mine.id) ?? null);
    unsent.set(mine.id, { base, mine, yields: yields && (waiting?.yields ?? true) });
  }
  return { ...state, shelves: shelved(state, records), unsent };
}

/** Puts a change that a page before could not send; two of one record are put together. */
export function resumed(state: RecordState, unsent: Unsent): RecordState {
  const other = state.unsent.get(unsent.mine.id);
  const mine = other ? merged(unsent, other.mine) : unsent.mine;
  return {
    ...state,
    shelves: shelved(state, [mine]),
    unsent: new Map(state.unsent).set(mine.id, { ...unsent, mine }),
  };
}

/** Takes over what became of changes that were sent. What was changed again meanwhile is sent next. */
export function answered(
  state: RecordState,
  sent: readonly Unsent[],
  answers: readonly RecordAnswer[],
): RecordState {
  const unsent = new Map(state.unsent);
  const theirs: KeptRecord[] = [];
  sent.forEach(({ mine }, i) => {
    const { outcome, record } = answers[i];
    const waiting = unsent.get(mine.id);
    if (!waiting) return;
    if (outcome === 'changed') return void (record && theirs.push(record));
    // What is refused and was never there stays, and waits: a page of another version, or a
    // newer server, may take it.
    if (outcome === 'refused' && !record) return;
    if (waiting.mine === mine || outcome === 'refused') {
      unsent.delete(mine.id);
      if (record) theirs.push(record);
    } else if (record) unsent.set(mine.id, { ...waiting, base: record });
  });
  return taken({ ...state, unsent }, theirs);
}

/** All records read anew, where it is known otherwise what became of them. */
export function carriedWith(state: RecordState, carry: Carry): RecordState {
  const all = [...state.shelves.values()].flatMap(({ entries }) =>
    [...entries.values()].map(({ record }) => record),
  );
  const now = { ...state, carry };
  return { ...now, shelves: shelved(now, all) };
}

function shelved(state: RecordState, records: readonly KeptRecord[]): RecordState['shelves'] {
  const next = new Map(state.shelves);
  // What is put aside, or is no longer, is read anew.
  const [asides, others] = [
    records.filter(({ kind }) => kind === putAside.name),
    records.filter(({ kind }) => kind !== putAside.name),
  ];
  const about = new Set(asides.map(({ document }) => document['record']));
  const again = [...next.values()].flatMap(({ entries }) =>
    [...entries.values()].filter((e) => about.has(e.record.id)),
  );
  for (const batch of [asides, [...again.map(({ record }) => record), ...others]]) {
    const changed = new Map<string, Map<string, Entry>>();
    for (const record of batch) {
      const entries = changed.get(record.kind) ?? new Map(next.get(record.kind)?.entries);
      changed.set(record.kind, entries.set(record.id, entryOf(state.carry, next, record)));
    }
    for (const [name, entries] of changed) next.set(name, shelfOf(RECORD_KINDS.get(name), entries));
  }
  return next;
}

function entryOf(carry: Carry | null, shelves: RecordState['shelves'], record: KeptRecord): Entry {
  const kind = record.deletedAt === null && RECORD_KINDS.get(record.kind);
  const read = kind ? kind.read(documentNow(record)) : null;
  const named = (document: object | null): Of<object> | null => document && { ...document, id: record.id };
  const stored = named(read);
  const carried = read
    ? carry?.(record, read, (of, key) => shelves.get(of.name)?.byKey.has(key) ?? false)
    : undefined;
  return { record, stored, read: carried ? named(carried.read) : stored, ...(carried && { carried }) };
}

/** The document of a record as it is written today, with all that only another version knows. */
export function documentNow({ kind, version, document }: KeptRecord): KeptRecord['document'] {
  const known = RECORD_KINDS.get(kind);
  return known ? (lifted(known, version, document) as KeptRecord['document']) : document;
}

function shelfOf(kind: RecordKind | undefined, entries: Shelf['entries']): Shelf {
  const list = [...entries.values()]
    .filter((entry) => entry.read !== null)
    .sort((a, b) => a.record.position - b.record.position || (a.record.id < b.record.id ? -1 : 1))
    .map((entry) => entry.read!);
  return {
    entries,
    list,
    byKey: new Map(kind?.key ? list.map((read) => [kind.key!(read), read] as const) : []),
  };
}

/**
 * What was changed here put to what someone else made of the same. A change goes before a deletion: nothing
 * that was made is lost.
 */
function merged({ base, mine, yields }: Unsent, theirs: KeptRecord): KeptRecord {
  if (mine.deletedAt !== null) return base && isSame(base, theirs) ? { ...mine, rev: theirs.rev } : theirs;
  if (theirs.deletedAt !== null && base && isSame(base, mine)) return theirs;
  const kind = RECORD_KINDS.get(mine.kind);
  const [first, second] = yields ? [theirs, mine] : [mine, theirs];
  const began = base ? documentNow(base) : {};
  const document = (kind?.merge(began, documentNow(first), documentNow(second)) ??
    mine.document) as KeptRecord['document'];
  const position = mergeKept(base?.position, first.position, second.position) as number;
  const madeOn = mergeKept(base?.madeOn, first.madeOn, second.madeOn) as number;
  return {
    ...theirs,
    madeOn,
    version: Math.max(mine.version, theirs.version),
    document,
    position,
    deletedAt: null,
  };
}

/** Whether two are the same but for who changed them and how often. */
const isSame = (a: KeptRecord, b: KeptRecord): boolean =>
  a.position === b.position &&
  a.madeOn === b.madeOn &&
  (a.deletedAt === null) === (b.deletedAt === null) &&
  same(a.document, b.document);
