import type { KeptRecord } from '@bathyscope/contracts';
import type { RecordKind } from '@bathyscope/contracts/records';
import { referencesIn } from '@bathyscope/core/revisions';
import { mergeKept } from '@bathyscope/core/view-state';
import same from 'fast-deep-equal';
import { v3 as namedUuid, v4 as uuid } from 'uuid';
import type { Inverse } from '../../state/history-store.ts';
import { documentNow, recordById, recordOn, recordsOn, wanted, type Of } from '../../state/record-store.ts';
import { derivedBy } from '../derived/derived.ts';
import { record } from '../perform.ts';
import type { Workspace } from '../workspace.ts';

/*
 * What is kept of the model, and how it is changed: each change can be undone, and undoing one's own leaves
 * what others made.
 */

/** How a record is to be; null for it to lie in the bin. */
interface Content {
  /** As it is stored, on the revision that it is of. */
  document: object;
  position: number;
  madeOn: number;
}

interface Change {
  kind: RecordKind;
  id: string;
  before: Content | null;
  after: Content | null;
}

/** What is not of a kind does not change what follows from those of that kind. */
const shelfOf = derivedBy('the records of a kind', (ws, kind: string) =>
  ws.records.getState().shelves.get(kind),
);

/** What is kept of a kind, in its order. */
export const kept = <D extends object>(ws: Workspace, kind: RecordKind<D>): readonly Of<D>[] =>
  recordsOn(ws.derived.of(shelfOf, kind.name), kind);

/** What is kept of one thing, of a kind that there is one of for each. */
export const keptAt = <D extends object>(
  ws: Workspace,
  kind: RecordKind<D>,
  key: string,
): Of<D> | undefined => recordOn(ws.derived.of(shelfOf, kind.name), kind, key);

/** A new one, at the end. @param id where others are to name it at once */
export function added<D extends object>(
  ws: Workspace,
  kind: RecordKind<D>,
  document: D,
  id: string = uuid(),
): Change {
  const last = kept(ws, kind).at(-1);
  const position = last ? (recordById(ws.records.getState(), kind.name, last.id)?.position ?? 0) + 1 : 1;
  return {
    kind: kind as unknown as RecordKind,
    id,
    before: contentOf(ws, kind, id),
    after: { document: plain(kind, document), position, madeOn: openRevision(ws) },
  };
}

/** What is to be kept of one thing, whether something was kept of it or not. */
export function given<D extends object>(ws: Workspace, kind: RecordKind<D>, document: D): Change {
  const key = kind.key!(document);
  const there = keptAt(ws, kind, key);
  return there ? changed(ws, kind, there, document) : added(ws, kind, document, namedId(ws, kind, key));
}

/** What is to be kept of several things; of those that null is wanted for nothing. */
export const givenTo = <D extends object>(
  ws: Workspace,
  kind: RecordKind<D>,
  keys: readonly string[],
  documentOf: (key: string) => D | null | false | '',
): Change[] =>
  keys.flatMap((key) => {
    const document = documentOf(key);
    const there = keptAt(ws, kind, key);
    return document ? [given(ws, kind, document)] : there ? [removed(ws, kind, there)] : [];
  });

/** @param change a field of undefined is taken away */
export function changed<D extends object>(
  ws: Workspace,
  kind: RecordKind<D>,
  of: Of<D>,
  change: Partial<D>,
): Change {
  const before = contentOf(ws, kind, of.id);
  const { position = 0, madeOn = openRevision(ws) } = before ?? {};
  const seen = seenAs(ws, kind, of.id);
  const wanted = plain(kind, { ...(seen ?? before?.document), ...change });
  if (!seen)
    return {
      kind: kind as unknown as RecordKind,
      id: of.id,
      before,
      after: { document: wanted, position, madeOn },
    };
  // What was kept on another revision stays as it was kept, but where something of a place is changed: then
  // all of it is of this one.
  const [was, now, is] = [before!.document, wanted, plain(kind, seen)] as Document[];
  const fields = [...new Set([...Object.keys(is), ...Object.keys(now)])].filter(
    (field) => !same(is[field], now[field]),
  );
  const placeless = fields.every((field) => same(was[field], is[field]) && !referencesIn(now[field]).length);
  const document = placeless
    ? plain(kind, { ...was, ...Object.fromEntries(fields.map((f) => [f, now[f]])) })
    : wanted;
  return {
    kind: kind as unknown as RecordKind,
    id: of.id,
    before,
    after: { document, position, madeOn: placeless ? madeOn : openRevision(ws) },
  };
}

/**
 * What was kept on another revision taken over to this one for good.
 * @param read makes the document from how it reads here @param anew makes it from how it was kept, where
 * nothing of it reads here
 */
export function settled(
  ws: Workspace,
  kind: RecordKind,
  id: string,
  read: (document: object) => object | null,
  anew: (document: object) => object | null = () => null,
): Change[] {
  const [before, seen] = [
    contentOf(ws, kind, id),
    ws.records.getState().shelves.get(kind.name)?.entries.get(id)?.read,
  ];
  const document = before && (seen ? read(seen) : anew(before.document));
  return document
    ? [
        {
          kind,
          id,
          before,
          after: { document: plain(kind, document), position: before.position, madeOn: openRevision(ws) },
        },
      ]
    : [];
}

const openRevision = (ws: Workspace): number => ws.model.getState().detail?.revision ?? 1;

/** What was looked up as it reads on the revision that is open; null for what is of it. */
function seenAs<D extends object>(ws: Workspace, kind: RecordKind<D>, id: string): object | null {
  const entry = ws.records.getState().shelves.get(kind.name)?.entries.get(id);
  if (!entry?.carried?.read) return null;
  return entry.carried.read;
}

type Document = Record<string, unknown>;

export const removed = <D extends object>(ws: Workspace, kind: RecordKind<D>, of: Of<D>): Change => ({
  kind: kind as unknown as RecordKind,
  id: of.id,
  before: contentOf(ws, kind, of.id),
  after: null,
});

/** Puts a record of a kind to another place of the list. @param to index among the others */
export function moved<D extends object>(ws: Workspace, kind: RecordKind<D>, of: Of<D>, to: number): Change {
  const state = ws.records.getState();
  const others = kept(ws, kind).filter((o) => o.id !== of.id);
  const at = (index: number) => recordById(state, kind.name, others[index].id)!.position;
  const position = !others.length
    ? 1
    : to <= 0
      ? at(0) - 1
      : to >= others.length
        ? at(others.length - 1) + 1
        : (at(to - 1) + at(to)) / 2;
  const before = contentOf(ws, kind, of.id);
  return { kind: kind as unknown as RecordKind, id: of.id, before, after: before && { ...before, position } };
}

/** Changes what is kept; one step back. */
export const changeRecords = (ws: Workspace, name: string, changes: readonly Change[]): void =>
  record(ws, putRecords(ws, name, changes));

/**
 * Changes what is kept, and tells how to go back: of each record what was changed, where
 * nobody changed that since.
 */
export function putRecords(ws: Workspace, name: string, changes: readonly Change[]): Inverse | void {
  const real = inOrder(changes.filter(({ before, after }) => !same(before, after)));
  if (!real.length) return;
  put(ws, real, false);
  const back = real.map((change) => ({ ...change, before: change.after, after: change.before }));
  return { name, undo: () => goBack(ws, back), redo: () => goBack(ws, real) };
}

/** New ones that were all to stand at the end stand there one after the other. */
function inOrder(changes: readonly Change[]): Change[] {
  const last = new Map<string, number>();
  return changes.map((change) => {
    if (change.before || !change.after) return change;
    const position = Math.max(change.after.position, (last.get(change.kind.name) ?? -Infinity) + 1);
    last.set(change.kind.name, position);
    return { ...change, after: { ...change.after, position } };
  });
}

/**
 * Takes changes back that are still as they were made; of others it says so. @returns false
 * where there were only others
 */
function goBack(ws: Workspace, changes: readonly Change[]): boolean {
  const open: Change[] = [];
  let left = '';
  for (const change of changes) {
    const { kind, id, before, after } = change;
    const now = contentOf(ws, kind, id);
    if (!now || !before || !after) {
      if (same(now, before)) open.push(change);
      else if (!same(now, after)) left ||= titleOf(kind, now ?? before ?? after);
      continue;
    }
    if (!isStill(now, before, after)) {
      left ||= titleOf(kind, now);
      continue;
    }
    // Only what was changed goes back: what others changed beside it stays.
    const document = mergeKept(before.document, after.document, now.document) as object;
    const position = before.position === after.position ? now.position : after.position;
    const madeOn = before.madeOn === after.madeOn ? now.madeOn : after.madeOn;
    open.push({ ...change, before: now, after: { document, position, madeOn } });
  }
  put(ws, open, true);
  if (left)
    ws.notify(`Someone else has changed “${left}” since: that stays as it is.`, { id: 'left-to-others' });
  return open.length > 0 || !left;
}

/** Whether what a change made is still so, field by field. */
function isStill(now: Content, before: Content, after: Content): boolean {
  const [n, b, a] = [now, before, after].map(({ document }) => document as Record<string, unknown>);
  const fields = [...new Set([...Object.keys(b), ...Object.keys(a)])].filter(
    (field) => !same(b[field], a[field]),
  );
  return (
    fields.every((field) => same(n[field], b[field])) &&
    (before.position === after.position || now.position === before.position)
  );
}

const titleOf = (kind: RecordKind, content: Content | null): string =>
  content ? kind.title(content.document) : kind.name;

/** A document as it is read again once it is stored. */
function plain<D extends object>(kind: RecordKind<D>, document: object): object {
  const read = kind.read(JSON.parse(JSON.stringify(document)));
  if (!read) throw new Error(`What is to be kept is no ${kind.name}.`);
  return read;
}

function contentOf<D extends object>(ws: Workspace, kind: RecordKind<D>, id: string): Content | null {
  const entry = ws.records.getState().shelves.get(kind.name)?.entries.get(id);
  if (!entry?.stored) return null;
  const { id: _, ...document } = entry.stored;
  return { document, position: entry.record.position, madeOn: entry.record.madeOn };
}

function put(ws: Workspace, changes: readonly Change[], yields: boolean): void {
  if (!changes.length) return;
  const state = ws.records.getState();
  const revision = openRevision(ws);
  const now = new Date().toISOString();
  const you = { name: '', you: true };
  const records = changes.map(({ kind, id, before, after }): KeptRecord => {
    const stored = recordById(state, kind.name, id);
    const begun = stored ?? {
      id,
      kind: kind.name,
      picture: null,
      madeOn: revision,
      author: you,
      createdAt: now,
      rev: 0,
      position: 0,
      document: {},
    };
    const mine = {
      ...begun,
      changedBy: you,
      changedAt: now,
      version: Math.max(stored?.version ?? 0, kind.version),
    };
    if (!after) return { ...mine, deletedAt: now };
    // What this version does not know of a document stays in it.
    const document = (
      stored ? mergeKept(before?.document ?? {}, after.document, documentNow(stored)) : after.document
    ) as KeptRecord['document'];
    return { ...mine, document, position: after.position, madeOn: after.madeOn, deletedAt: null };
  });
  ws.records.setState(wanted(state, records, yields));
}

/**
 * One for each thing of a model, so that two pages that keep something of it keep the same (a name-based
 * UUID, RFC 9562).
 */
function namedId<D extends object>(ws: Workspace, kind: RecordKind<D>, key: string): string {
  const id = namedUuid(`${kind.name} ${key}`, ws.source.model);
  // What is kept under this name on another revision is of something else here.
  return contentOf(ws, kind, id) ? namedUuid(`${kind.name} ${key} ${openRevision(ws)}`, ws.source.model) : id;
}
