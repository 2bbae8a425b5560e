import type { ModelDetail } from '@bathyscope/contracts';
import { putAside, RECORD_KINDS } from '@bathyscope/contracts/records';
import { listOccurrences, partKeys, type ComponentPath } from '@bathyscope/core/model';
import { worseStatus, type Resolved } from '@bathyscope/core/references';
import {
  carryOverOf,
  carryState,
  carriedReference,
  motionOfReference,
  referencesIn,
  unchangedPart,
  type CarryOver,
  type RevisionMatch,
} from '@bathyscope/core/revisions';
import type { ViewState } from '@bathyscope/core/view-state';
import { carriedWith, type Carry, type Entry } from '../../state/record-store.ts';
import { Matching } from './matching.ts';
import type { OtherRevision } from './other-revisions.ts';
import type { Workspace } from '../workspace.ts';

/* What was kept on other revisions, as it reads on the one that is open. */

/** Parts that are compared by shape, where neither name nor hash tells what they became. */
const MOST_ALIKE = 60;
/** Other revisions that are looked up from at once. */
const MOST_REVISIONS = 50;

/**
 * Looks up what is kept on other revisions, as far as that is not known yet; when this is done records read
 * as on the one that is open.
 */
export function carryOver(ws: Workspace): Promise<void> {
  const from = ws.carried.from;
  // What cannot be looked up is found as well as it says itself.
  from.under = from.under.then(() => lookUpAll(ws)).catch(() => {});
  return from.under;
}

/** Whether there are records of other revisions that nothing was looked up of yet, and that could be. */
export const isBehind = (ws: Workspace): boolean =>
  kept(ws).some(({ record, carried }) => !carried && ws.carried.from.others.get(record.madeOn) !== null);

async function lookUpAll(ws: Workspace): Promise<void> {
  const { others, failed } = ws.carried.from;
  const now = ws.model.getState().detail;
  if (!now) return;
  const revisions = wanted(ws)
    .filter((r) => r !== now.revision && !others.has(r))
    .slice(0, MOST_REVISIONS);
  // Records that were just loaded are not read as on this revision yet.
  if (!revisions.length && !missing(ws).length && ws.records.getState().carry) return;
  const matching = new Matching();
  try {
    for (const revision of revisions)
      others.set(revision, await otherRevision(ws, matching, revision, now).catch(() => null));
    for (const { other, was, is } of missing(ws)) {
      const containers = await Promise.all([was, is].map((hash) => ws.source.geometry(hash, NEVER))).catch(
        () => null,
      );
      const found =
        containers &&
        (await matching
          .ask('parts', { was: containers[0], is: containers[1] }, containers)
          .catch(() => null));
      if (found) other.things.set(pairOf(was, is), found);
      else failed.add(pairOf(was, is));
    }
  } finally {
    matching.end();
  }
  const still = ws.model.getState().detail;
  if (still?.id === now.id && still.revision === now.revision)
    ws.records.setState((state) => carriedWith(state, carryOf(ws)));
}

const NEVER = new AbortController().signal;
const pairOf = (was: string, is: string): string => `${was} ${is}`;

async function otherRevision(
  ws: Workspace,
  matching: Matching,
  revision: number,
  now: ModelDetail,
): Promise<OtherRevision | null> {
  const detail = await ws.source.revision(revision);
  const [was, is] = [detail.structure, now.structure];
  const first = await matching.ask('structures', { was, is, alike: [] });
  const known = new Set([...first.parts.values()].map(({ to }) => to));
  const left = was.parts.flatMap((p, o) =>
    p.geometry && !first.parts.has(o) ? [{ number: o, hash: p.geometry }] : [],
  );
  const free = is.parts.flatMap((p, n) =>
    p.geometry && !known.has(n) ? [{ number: n, hash: p.geometry }] : [],
  );
  let matched = first;
  if (left.length && free.length && left.length <= MOST_ALIKE && free.length <= MOST_ALIKE) {
    const get = (list: typeof left) => Promise.all(list.map(({ hash }) => ws.source.geometry(hash, NEVER)));
    const [old, young] = [await get(left), await get(free)];
    const alike = await matching.ask('alike', { was: old, is: young }, [...old, ...young]);
    const pairs = alike.flatMap((row, i) =>
      row.flatMap((same, j) => (same ? [[left[i].number, free[j].number] as const] : [])),
    );
    if (pairs.length) matched = await matching.ask('structures', { was, is, alike: pairs });
  }
  const all = listOccurrences(was);
  const placed = all.filter((o) => o.part !== undefined);
  const alone = placed.length === 1 ? ({ kind: 'body', component: placed[0].path, index: 0 } as const) : null;
  return {
    detail,
    byPath: new Map(all.map((o) => [o.path, o])),
    keys: partKeys(was),
    alone,
    matched,
    things: new Map(),
  };
}

/** All records that are kept, in the order of their kinds. */
export const entriesOf = (ws: Workspace): Entry[] => {
  const { shelves } = ws.records.getState();
  return [...RECORD_KINDS.keys()].flatMap((kind) =>
    [...(shelves.get(kind)?.entries.values() ?? [])].filter(({ stored }) => stored),
  );
};

/** What is kept of other revisions than the one that is open. */
const kept = (ws: Workspace): Entry[] => {
  const revision = ws.model.getState().detail?.revision;
  return entriesOf(ws).filter(({ record }) => record.madeOn !== revision);
};

/** Revisions that records are of. */
const wanted = (ws: Workspace): number[] => [
  ...new Set([
    ...kept(ws).map(({ record }) => record.madeOn),
    ...ws.carried.from.states.map(({ revision }) => revision),
  ]),
];

/** Pairs of geometries in which things were referred to, and that were not compared yet. */
function missing(ws: Workspace): { other: OtherRevision; was: string; is: string }[] {
  const { others, failed, states } = ws.carried.from;
  const found = new Map<string, { other: OtherRevision; was: string; is: string }>();
  const note = (revision: number, document: unknown) => {
    const other = others.get(revision);
    if (!other) return;
    for (const reference of referencesIn(document)) {
      const now = 'index' in reference ? partNow(ws, other, reference.component) : null;
      const key = now && pairOf(now.was, now.is);
      if (key && now.was !== now.is && !other.things.has(key) && !failed.has(key))
        found.set(`${revision} ${key}`, { other, was: now.was, is: now.is });
    }
  };
  for (const { record, stored } of kept(ws)) note(record.madeOn, stored);
  for (const { revision, document } of states) note(revision, document);
  for (const [revision, other] of others) note(revision, other?.alone);
  return [...found.values()];
}

/**
 * The part that an old component has now, and the geometries of what it had and has; null where one has none.
 */
function partNow(
  ws: Workspace,
  other: OtherRevision,
  path: ComponentPath,
): { part: number; was: string; is: string } | null {
  const { byPath, detail } = ws.model.getState();
  const to = other.matched.components.get(path)?.to;
  const [old, part] = [other.byPath.get(path)?.part, to === undefined ? undefined : byPath.get(to)?.part];
  if (old === undefined || part === undefined) return null;
  const [was, is] = [other.detail.structure.parts[old]?.geometry, detail?.structure.parts[part]?.geometry];
  return was && is ? { part, was, is } : null;
}

/** How records of other revisions read on the one that is open; undefined of one that was not looked up. */
export function carryOf(ws: Workspace): Carry {
  const revision = ws.model.getState().detail?.revision ?? 0;
  return (record, read, isThere) => {
    if (record.madeOn === revision) return undefined;
    const kind = RECORD_KINDS.get(record.kind);
    const other = ws.carried.from.others.get(record.madeOn);
    if (!kind || !other) return undefined;
    let status: Resolved['status'] | null = null;
    const tell = (now: Resolved['status']) => void (status = status ? worseStatus(status, now) : now);
    let known = true;
    const to = carrierFrom(ws, other, tell, () => (known = false));
    const carried = kind.carried(read, to);
    if (!known) return undefined;
    const aside = isThere(putAside, putAside.key!({ record: record.id, revision }));
    return { read: aside ? null : carried, status, aside };
  };
}

/** A state of another revision as it reads on this one; as it is where that was not looked up. */
export function stateHere(ws: Workspace, state: ViewState | null, revision: number): ViewState | null {
  const other = ws.carried.from.others.get(revision);
  if (!state || !other || revision === ws.model.getState().detail?.revision) return state;
  const nothing = () => {};
  return carryState(state, carrierFrom(ws, other, nothing, nothing));
}

/** Reads whatever it is of as of a component of this revision, and its part. */
export function pointedTo(ws: Workspace, component: ComponentPath): CarryOver {
  const { byPath, partKeys: keys } = ws.model.getState();
  const part = byPath.get(component)?.part;
  return carryOverOf({ component: () => component, part: () => (part === undefined ? null : keys[part]) });
}

/**
 * @param tell hears what became of each reference @param unknown told where two geometries were not compared
 */
function carrierFrom(
  ws: Workspace,
  other: OtherRevision,
  tell: (status: Resolved['status']) => void,
  unknown: () => void,
): CarryOver {
  const match = matchOf(ws, other, unknown);
  const { byPath, partKeys: keys } = ws.model.getState();
  const keyOf = (path: ComponentPath) => {
    const part = byPath.get(path)?.part;
    return part === undefined ? undefined : keys[part];
  };
  const told = <T>(found: { to: T; certain: boolean } | undefined): T | null => {
    tell(!found ? 'lost' : found.certain ? 'found' : 'probably found');
    return found ? found.to : null;
  };
  const loud: Omit<CarryOver, 'quiet'> = {
    reference: (reference) => {
      const now = carriedReference(reference, match, keyOf);
      tell(now.became ?? 'found');
      return now;
    },
    component: (path) => told(match.component(path)),
    part: (key) => told(match.part(key)),
    whole: match.motion,
    motion: (from) => motionOfReference(from, match),
  };
  const quiet = carryOverOf({
    ...loud,
    reference: (reference) => carriedReference(reference, match, keyOf),
    component: (path) => match.component(path)?.to ?? null,
    part: (key) => match.part(key)?.to ?? null,
  });
  return { ...loud, quiet };
}

function matchOf(ws: Workspace, other: OtherRevision, unknown: () => void): RevisionMatch {
  const { byPath, parts, partKeys: keys } = ws.model.getState();
  const { matched, alone } = other;
  const match: RevisionMatch = {
    motion: matched.motion,
    component: (path) => matched.components.get(path),
    part: (key) => {
      const found = matched.parts.get(other.keys.indexOf(key));
      return found && { to: keys[found.to], certain: found.certain };
    },
    placements: (path) => {
      const [was, to] = [other.byPath.get(path), matched.components.get(path)?.to];
      const is = to === undefined ? undefined : byPath.get(to);
      return was && is && { was: was.placement, is: is.placement };
    },
    things: (path) => {
      const now = partNow(ws, other, path);
      const geometry = now && parts.get(now.part)?.geometry;
      if (!geometry) return undefined;
      const { was, is } = now;
      let things = other.things.get(pairOf(was, is));
      if (!things && was === is) other.things.set(pairOf(was, is), (things = unchangedPart(geometry)));
      if (!things) return void unknown();
      return { matched: things, geometry };
    },
  };
  const now = alone && partNow(ws, other, alone.component);
  const moved = now && other.things.get(pairOf(now.was, now.is))?.motion;
  return matched.motion || !moved ? match : { ...match, motion: motionOfReference(alone, match) };
}
