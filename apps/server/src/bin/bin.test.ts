import { randomUUID } from 'node:crypto';
import type { BinnedModel, KeptRecord } from '@bathyscope/contracts';
import { INSTALLATION } from '../database/migrations.ts';
import { ORPHANS, copyOf, freshDatabase, publicFile, TestServer } from '../testing/test-server.ts';
import { Garbage } from '../worker/garbage.ts';

let server: TestServer;
const cube = publicFile('cube-mm.step');
beforeAll(async () => {
  await freshDatabase('bin_test');
  server = await TestServer.start();
});
afterAll(() => server.close());

const binned = async () => (await server.get<BinnedModel[]>('/bin')).map((m) => m.name);
const collect = () => server.worker.get(Garbage).collect(0);

test('a deleted model lies in the bin, comes back with all that was kept of it, or goes for good with its bytes', async () => {
  const id = await server.open('Cube.stp', cube);
  const record = { kind: 'pick-set', version: 1, document: { name: 'Set', items: [] } };
  await server.send('PUT', `/models/${id}/records/${randomUUID()}`, record);
  expect((await server.send('DELETE', `/bin/${id}`)).status).toBe(404);
  await server.send('DELETE', `/models/${id}`);
  const [model] = await server.get<BinnedModel[]>('/bin');
  const days = (new Date(model.until).getTime() - new Date(model.deletedAt).getTime()) / 86_400_000;
  expect([model.name, Math.round(days)]).toEqual(['Cube', 30]);
  expect((await server.send('POST', `/models/${id}/restore`)).status).toBe(204);
  expect(await server.get<KeptRecord[]>(`/models/${id}/records`)).toMatchObject([
    { document: record.document },
  ]);
  await server.send('DELETE', `/models/${id}`);
  expect((await server.send('DELETE', `/bin/${id}`)).status).toBe(204);
  expect([await binned(), (await server.send('POST', `/models/${id}/restore`)).status]).toEqual([[], 404]);
  await collect();
  expect(await server.sql('select count(*)::int as n from record')).toEqual([{ n: 0 }]);
  expect((await server.sql<{ what: string; n: number }>(ORPHANS)).filter((o) => o.n > 0)).toEqual([]);
});

test('a model whose bytes were put on the shelf again is not put back beside them, also when both happen at once', async () => {
  const bytes = copyOf(cube, 'twice');
  const id = await server.open('First.stp', bytes);
  await server.send('DELETE', `/models/${id}`);
  const [again, back] = await Promise.all([
    server.upload('Second.stp', bytes),
    server.send('POST', `/models/${id}/restore`),
  ]);
  const late = await server.send('POST', `/models/${id}/restore`);
  const { length } = (await server.get<{ name: string }[]>('/models')).filter((m) =>
    ['First', 'Second'].includes(m.name),
  );
  // One of both was first; the other was told.
  expect([length, back.status === 204 ? again.body.duplicate : late.status]).toEqual([
    1,
    back.status === 204 ? true : 409,
  ]);
  if (late.status === 409)
    expect(((await late.json()) as { detail: string }).detail).toContain('as “Second”');
});

test('what has lain in the bin for its days goes for good: models, records, views; so do failed jobs, and profiles that kept nothing', async () => {
  const id = await server.open('Old.stp', copyOf(cube, 'old'));
  const young = await server.open('Young.stp', copyOf(cube, 'young'));
  const [kept, gone] = [randomUUID(), randomUUID()];
  for (const record of [kept, gone])
    await server.send('PUT', `/models/${young}/records/${record}`, {
      kind: 'pick-set',
      version: 1,
      document: { name: 'Set', items: [] },
    });
  for (const record of [kept, gone]) await server.send('DELETE', `/models/${young}/records/${record}`);
  await server.send('DELETE', `/models/${id}`);
  const ann = await server.browser();
  await ann('PATCH', '/settings', { values: { theme: 'abyss' } });
  await server.browser();
  await server.sql(`update model set deleted_at = now() - interval '31 days' where id = $1`, [id]);
  await server.sql(`update record set deleted_at = now() - interval '31 days' where id = $1`, [gone]);
  await server.sql(`update owner set seen_at = now() - interval '31 days'`);
  await server.sql(
    `insert into job (owner_id, kind, subject, input, state, finished_at) select $1, 'convert', 'Failed', '{}', 'failed', now() - n * interval '20 days' from generate_series(1, 2) n`,
    [INSTALLATION],
  );
  await collect();
  expect(await server.sql(`select 1 as one from job where state = 'failed'`)).toHaveLength(1);
  expect(await binned()).not.toContain('Old');
  expect((await server.get<KeptRecord[]>(`/models/${young}/records?bin=true`)).map((r) => r.id)).toEqual([
    kept,
  ]);
  expect((await server.get<{ name: string }[]>('/models')).map((m) => m.name)).toContain('Young');
  const owners = await server.sql<{ id: string }>('select id from owner');
  expect(owners.map((o) => o.id)).toContain(INSTALLATION);
  expect(owners).toHaveLength(2);
});
