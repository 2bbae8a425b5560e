import { serverSource } from './server-source.ts';

/** What a server keeps of one model, by versions; other calls fail. */
let kept: { values: Record<string, unknown> | null; version: number };
const answer = (status: number, body: unknown): Response =>
  ({ ok: status < 300, status, json: () => Promise.resolve(body) }) as unknown as Response;

beforeEach(() => {
  kept = { values: null, version: 0 };
  globalThis.fetch = (_, init) => {
    if (init?.method !== 'PUT') return Promise.resolve(answer(200, kept));
    const sent = JSON.parse(init.body as string) as { values: Record<string, unknown>; version: number };
    if (sent.version !== kept.version) return Promise.resolve(answer(409, { status: 409, detail: 'changed meanwhile' }));
    kept = { values: sent.values, version: kept.version + 1 };
    return Promise.resolve(answer(200, { version: kept.version }));
  };
});

test('two people who keep a set at the same time both keep it, and each is told what the other kept', async () => {
  const [ann, ben] = [serverSource('m').states, serverSource('m').states];
  await Promise.all([ann.preferences(), ben.preferences()]);
  expect(await ann.savePreferences({ upAxis: 'z', pickSets: [{ id: 'a' }] })).toBeNull();
  const merged = await ben.savePreferences({ upAxis: 'z', pickSets: [{ id: 'b' }] });
  expect(merged).toEqual({ upAxis: 'z', pickSets: [{ id: 'a' }, { id: 'b' }] });
  expect(kept).toEqual({ values: merged, version: 2 });
  // The next change is made of what there is now.
  expect(await ben.savePreferences({ upAxis: 'y', pickSets: [{ id: 'a' }, { id: 'b' }] })).toBeNull();
  expect(await ann.savePreferences({ upAxis: 'z', pickSets: [] })).toEqual({ upAxis: 'y', pickSets: [{ id: 'b' }] });
});

test('a save that goes on being overtaken gives up with the server’s sentence, to be tried again later', async () => {
  const { states } = serverSource('m');
  await states.preferences();
  const { fetch } = globalThis;
  globalThis.fetch = (address, init) => {
    if (init?.method === 'PUT') kept.version++;
    return fetch(address, init);
  };
  await expect(states.savePreferences({ upAxis: 'y' })).rejects.toThrow('changed meanwhile');
});

test('changes that follow each other while one is on its way overwrite nobody’s, and bring nothing back that was taken away', async () => {
  const [ann, ben] = [serverSource('m').states, serverSource('m').states];
  await Promise.all([ann.preferences(), ben.preferences()]);
  await ann.savePreferences({ pickSets: [{ id: 'a' }] });
  // Ben keeps a set, and forgets it again before the first answer is there.
  const both = [ben.savePreferences({ pickSets: [{ id: 'b' }] }), ben.savePreferences({ pickSets: [] })];
  await Promise.all(both);
  expect(kept.values).toEqual({ pickSets: [{ id: 'a' }] });
});
