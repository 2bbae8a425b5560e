import type { KeptRecord, RecordAnswer, ModelDetail } from '@bathyscope/contracts';
import { ledgerEntry, type LedgerEntry } from '@bathyscope/contracts/records';
import { createProfileState } from '../apps/web/src/state/settings-store.ts';
import { createWorkspace } from '../apps/web/src/workspace/create-workspace.ts';
import { fixtureSource } from '../apps/web/src/workspace/source/fixture-source.ts';
import { keepRecords, loadRecords } from '../apps/web/src/workspace/keeping/keep-records.ts';
import { added, changed, changeRecords, kept } from '../apps/web/src/workspace/keeping/records.ts';
import type { RecordStore } from '../apps/web/src/workspace/source/source.ts';
import type { Workspace } from '../apps/web/src/workspace/workspace.ts';
import { publicFile, Running, seeded, SOAK, wait } from './running.ts';

/*
 * What pages keep of a model while web server and database are killed: by the pages' own code, over the wire.
 */

jest.setTimeout(SOAK * 600_000);

const running = new Running();
const random = seeded(20_261_130);
beforeAll(() => running.start());
afterAll(async () => {
  await running.interrupt().catch(() => {});
  running.remove();
});

const PAGES = 3;
const CHANGES = 500 * SOAK;
const KILLS = 20 * SOAK;
/** ms between questions of a page for what others changed: there is no event stream here. */
const ASK_EVERY = 700;

/** Each page has a field of its own, so that what it wrote last must stand in the end. */
const FIELDS = [
  (n: number): Partial<LedgerEntry> => ({ nominal: n }),
  (n: number): Partial<LedgerEntry> => ({ colour: `#${n.toString(16).padStart(6, '0')}` }),
  (n: number): Partial<LedgerEntry> => ({ moved: [n, -n] }),
];

function storeOf(model: string): RecordStore {
  const call = async <T>(path: string, init?: RequestInit): Promise<T> => {
    const response = await fetch(`${running.address}/api/models/${model}${path}`, {
      ...init,
      signal: AbortSignal.timeout(60_000),
    });
    if (!response.ok) throw new Error(`${response.status}`);
    return (await response.json()) as T;
  };
  return {
    list: (ids) => call<KeptRecord[]>(`/records${ids ? `?ids=${ids.join(',')}` : ''}`),
    bin: () => call<KeptRecord[]>('/records?bin=true'),
    change: (changes) =>
      call<RecordAnswer[]>('/records', {
        method: 'PATCH',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ changes }),
      }),
    purge: () => Promise.reject(new Error('nothing is purged here')),
    setPicture: () => Promise.reject(new Error('there are no pictures here')),
    follow: (_, opened) => {
      const timer = setInterval(opened, ASK_EVERY);
      return () => clearInterval(timer);
    },
  };
}

test(`${CHANGES} changes by ${PAGES} pages through ${KILLS} kills: what was acknowledged is there, what was not is in its page, nothing twice`, async () => {
  const { body } = await running.upload('Cube.stp', publicFile('cube-mm.step'));
  await running.until(
    async () => (await running.get<ModelDetail>(`/models/${body.model.id}`)).body.state === 'ready',
    'the model is ready',
  );
  const { id } = body.model;
  const records = storeOf(id);
  const pages: Workspace[] = [];
  const closes: (() => void)[] = [];
  const acknowledged = new Set<string>();
  for (let p = 0; p < PAGES; p++) {
    const heard: RecordStore = {
      ...records,
      change: async (changes) => {
        const answers = await records.change(changes);
        for (const answer of answers) if (answer.outcome === 'stored') acknowledged.add(answer.id);
        return answers;
      },
    };
    const ws = createWorkspace(
      fixtureSource({ id, name: 'Cube' } as ModelDetail, undefined, undefined, undefined, heard),
      createProfileState(),
    );
    ws.records.setState(await loadRecords(ws.source));
    closes.push(keepRecords(ws, () => {}).close);
    pages.push(ws);
  }

  /** By record and page, what that page wrote last. */
  const wrote = new Map<string, Partial<LedgerEntry>[]>();
  let made = 0;
  const change = (p: number, n: number) => {
    const ws = pages[p];
    const list = kept(ws, ledgerEntry);
    if (list.length < 40 && random() < 0.3) {
      const entry = {
        name: `Figure ${++made}`,
        of: [{ kind: 'component' as const, component: '.' }],
        figure: '',
        was: n,
        revision: 1,
      };
      const one = added(ws, ledgerEntry, entry);
      wrote.set(one.id, []);
      return changeRecords(ws, 'keep', [one]);
    }
    if (!list.length) return;
    const one = list[Math.floor(random() * list.length)];
    const field = FIELDS[p](n);
    wrote.get(one.id)![p] = field;
    changeRecords(ws, 'change', [changed(ws, ledgerEntry, one, field)]);
  };
  let killing = true;
  const kills = (async () => {
    for (let k = 0; k < KILLS; k++) {
      await wait(200 + 800 * random());
      await running.kill(k % 3 === 2 ? 'postgres' : 'main.js', random);
    }
    killing = false;
  })();
  let changes = 0;
  while (changes < CHANGES || killing) {
    if (changes < CHANGES) change(changes % PAGES, ++changes);
    await wait(40);
  }
  await kills;

  await running.until(
    async () => pages.every((ws) => ws.records.getState().unsent.size === 0),
    'all that waits was sent',
  );
  const stored = await records.list();
  process.stdout.write(
    `${changes} changes of ${made} records through ${KILLS} kills; ${acknowledged.size} were acknowledged at least once.\n`,
  );
  expect(new Set(stored.map((r) => r.id))).toEqual(new Set(wrote.keys()));
  expect(new Set(stored.map((r) => r.document['name'])).size).toBe(made);
  for (const { id: record, document } of stored)
    for (const field of wrote.get(record)!.filter(Boolean)) expect(document).toMatchObject(field);
  // Every page has what is stored.
  const read = (r: KeptRecord) => ({ ...ledgerEntry.read(r.document), id: r.id });
  await running.until(
    async () =>
      pages.every((ws) =>
        kept(ws, ledgerEntry).every(
          (one) => JSON.stringify(one) === JSON.stringify(read(stored.find((r) => r.id === one.id)!)),
        ),
      ),
    'every page shows what is stored',
  );
  closes.forEach((close) => close());
});
