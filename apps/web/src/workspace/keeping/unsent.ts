import { createStore, entries, promisifyRequest, setMany } from 'idb-keyval';
import { v4 as uuid } from 'uuid';
import type { Unsent } from '../../state/record-store.ts';

/**
 * Where changes of records wait that the server has not stored yet: they outlive the page, and the browser.
 */
export interface Outbox {
  /** All that wait, by model: those of every page of this browser. */
  all(): Promise<readonly (readonly [model: string, unsent: Unsent])[]>;
  /** Notes what waits in this page, and forgets what was settled, whichever page noted it. */
  note(model: string, waiting: readonly Unsent[], settled: readonly Unsent[]): Promise<void>;
}

/** Two pages may change one record: each notes its own. */
type Key = [model: string, record: string, page: string];

/** In the browser's database. */
export function browserOutbox(): Outbox {
  const store = createStore('bathyscope', 'unsent');
  const page = uuid();
  return {
    all: async () => (await entries<Key, Unsent>(store)).map(([[model], unsent]) => [model, unsent] as const),
    note: async (model, waiting, settled) => {
      const noted = waiting.map((unsent): [Key, Unsent] => [[model, unsent.mine.id, page], unsent]);
      if (noted.length) await setMany(noted, store);
      for (const { mine } of settled)
        await store('readwrite', (those) => {
          // What was changed again since it was settled still waits.
          const range = IDBKeyRange.bound([model, mine.id, ''], [model, mine.id, '\uffff']);
          those.openCursor(range).onsuccess = (event) => {
            const cursor = (event.target as IDBRequest<IDBCursorWithValue | null>).result;
            if (!cursor) return;
            if (JSON.stringify((cursor.value as Unsent).mine) === JSON.stringify(mine)) cursor.delete();
            cursor.continue();
          };
          return promisifyRequest(those.transaction);
        });
    },
  };
}

/** Where there is no browser: gone with the page. */
export function fleetingOutbox(): Outbox {
  const waiting = new Map<string, readonly [string, Unsent]>();
  return {
    all: async () => [...waiting.values()],
    note: async (model, noted, settled) => {
      settled.forEach(({ mine }) => waiting.delete(mine.id));
      noted.forEach((unsent) => waiting.set(unsent.mine.id, [model, unsent]));
    },
  };
}
