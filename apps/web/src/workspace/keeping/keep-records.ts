import type { KeptRecord, RecordAnswer, RecordChange, RecordEvent } from '@bathyscope/contracts';
import {
  answered,
  NO_RECORDS,
  recordById,
  resumed,
  taken,
  type RecordState,
  type Unsent,
} from '../../state/record-store.ts';
import type { ModelSource } from '../source/source.ts';
import type { Outbox } from './unsent.ts';
import type { Workspace } from '../workspace.ts';

/** ms before a change that could not be sent is sent again; twice as long each time. */
const FIRST_PAUSE = 1000;
const LONGEST_PAUSE = 30_000;
/** Records sent at once, and characters of them, within what the server takes. */
const MOST_AT_ONCE = 400;
const MOST_CHARACTERS = 2_000_000;
/** ms in which what is heard of is gathered before it is asked for. */
const GATHER = 40;
/** Records asked for by their identifiers; of more, all are. */
const MOST_NAMED = 150;

/** What is kept of the model, with what this browser could not send before. */
export async function loadRecords({ records, outbox, model }: ModelSource): Promise<RecordState> {
  const [stored, waiting] = await Promise.all([records.list(), outbox.all().catch(() => [])]);
  const unsent = waiting.flatMap(([of, change]) => (of === model ? [change] : []));
  const there = new Set(stored.map(({ id }) => id));
  const missing = [...new Set(unsent.flatMap(({ mine }) => (there.has(mine.id) ? [] : [mine.id])))];
  const binned = missing.length ? await records.list(missing) : [];
  // What waits is put as it was made, then to what others made of it meanwhile.
  return taken(unsent.reduce(resumed, NO_RECORDS), [...stored, ...binned]);
}

export interface RecordKeeping {
  failing(): boolean;
  /** Sends what waits, now. */
  now(): void;
  close(): void;
}

/**
 * Sends what is changed here, one after the other, and takes over what others change. @param settled told
 * whenever sending went or did not
 */
export function keepRecords(ws: Workspace, settled: () => void): RecordKeeping {
  const { records, outbox, model } = ws.source;
  const stop = new AbortController();
  /** Refused by the server: not sent again by this page. */
  const refused = new Set<string>();
  let pause = 0;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let sending = false;

  const waiting = (): Unsent[] =>
    [...ws.records.getState().unsent.values()].filter(({ mine }) => !refused.has(mine.id));
  const send = async (): Promise<void> => {
    clearTimeout(timer);
    if (sending || !waiting().length) return;
    sending = true;
    try {
      for (
        let batch = nextBatch(waiting());
        batch.length && !stop.signal.aborted;
        batch = nextBatch(waiting())
      ) {
        const answers = await records.change(batch.map(changeOf));
        for (const { outcome, problem, record, id } of answers) {
          if (outcome !== 'refused') continue;
          ws.notify.error(problem ?? 'A change was refused.', { id: 'refused' });
          if (!record) refused.add(id);
        }
        ws.records.setState(answered(ws.records.getState(), batch, answers));
        pause = 0;
      }
    } catch {
      pause = Math.min(LONGEST_PAUSE, 2 * pause || FIRST_PAUSE);
      timer = setTimeout(() => void send(), pause);
    } finally {
      sending = false;
      settled();
    }
  };

  const take = (found: readonly KeptRecord[]) => ws.records.setState(taken(ws.records.getState(), found));
  const heard = new Map<string, RecordEvent>();
  let gathering: ReturnType<typeof setTimeout> | undefined;
  const fetchHeard = async () => {
    gathering = undefined;
    const state = ws.records.getState();
    const ids = [...heard.values()]
      .filter(({ kind, record, rev }) => (recordById(state, kind, record)?.rev ?? 0) < rev)
      .map((e) => e.record);
    heard.clear();
    if (!ids.length) return;
    if (ids.length > MOST_NAMED) return refresh();
    take(await records.list(ids));
  };
  /** All anew: something may have been missed. What is not there any more lies in the bin. */
  const refresh = async () => {
    const before = ws.records.getState();
    const known = [...before.shelves.values()].flatMap(({ entries }) =>
      [...entries.values()].map(({ record }) => record),
    );
    const found = await records.list();
    const there = new Set(found.map(({ id }) => id));
    const { unsent } = ws.records.getState();
    const missing = known
      .filter(({ id, rev, deletedAt }) => rev > 0 && deletedAt === null && !there.has(id) && !unsent.has(id))
      .map((record) => ({ ...record, deletedAt: new Date().toISOString() }));
    take([...found, ...missing]);
  };
  const hear = (event: RecordEvent) => {
    heard.set(event.record, event);
    // What was missed by a failed request is heard of again, or asked for when the line stands again.
    gathering ??= setTimeout(() => void fetchHeard().catch(() => {}), GATHER);
  };
  const unfollow = ws.source.can.live
    ? records.follow(hear, () => {
        void refresh().catch(() => {});
        void send();
      })
    : () => {};

  let noting = Promise.resolve();
  const off = ws.records.subscribe((now, before) => {
    if (now.unsent === before.unsent) return;
    const changed = [...now.unsent.values()].filter((u) => before.unsent.get(u.mine.id) !== u);
    const done = [...before.unsent.values()].filter(({ mine }) => !now.unsent.has(mine.id));
    // Where the browser keeps nothing, what waits is as safe as the page.
    noting = noting.then(() => outbox.note(model, changed, done).catch(() => {}));
    if (changed.length) void send();
    // Also where another page of this browser has sent it.
    else settled();
  });
  if (waiting().length) void send();
  return {
    failing: () => pause > 0 && waiting().length > 0,
    now: () => void send(),
    close: () => {
      void send();
      stop.abort();
      clearTimeout(timer);
      clearTimeout(gathering);
      off();
      unfollow();
    },
  };
}

/** Rounds in which a change is put to what others made of the same, before it is left for the next time. */
const ROUNDS = 5;

/** Sends what pages of this browser could not before, of all models. What cannot be sent now waits on. */
export async function sendLeftovers(
  outbox: Outbox,
  change: (model: string, changes: RecordChange[]) => Promise<RecordAnswer[]>,
): Promise<void> {
  const all = await outbox.all();
  for (const model of new Set(all.map(([of]) => of))) {
    const unsent = all.flatMap(([of, one]) => (of === model ? [one] : []));
    let state = unsent.reduce<RecordState>(resumed, NO_RECORDS);
    try {
      for (let round = 0; round < ROUNDS && state.unsent.size; round++) {
        const batch = nextBatch([...state.unsent.values()]);
        state = answered(state, batch, await change(model, batch.map(changeOf)));
      }
      const settled = unsent.filter(({ mine }) => !state.unsent.has(mine.id));
      await outbox.note(model, [], settled);
    } catch {
      // The server is away, or the model lies in the bin.
    }
  }
}

function nextBatch(waiting: readonly Unsent[]): Unsent[] {
  const batch: Unsent[] = [];
  let characters = 0;
  for (const unsent of waiting.slice(0, MOST_AT_ONCE)) {
    characters += JSON.stringify(unsent.mine.document).length;
    if (batch.length && characters > MOST_CHARACTERS) break;
    batch.push(unsent);
  }
  return batch;
}

const changeOf = ({ base, mine }: Unsent): RecordChange => ({
  id: mine.id,
  kind: mine.kind,
  version: mine.version,
  document: mine.document,
  position: mine.position,
  deleted: mine.deletedAt !== null,
  match: base?.rev ?? null,
  madeOn: mine.madeOn,
});
