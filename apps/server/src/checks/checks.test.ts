import type { ClashCheck, Questions } from '@bathyscope/contracts';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { QuestionsService } from '../questions/questions.service.ts';
import { ClashesJob } from '../worker/clashes.job.ts';
import { Garbage } from '../worker/garbage.ts';
import { copyOf, freshDatabase, ORPHANS, publicFile, TestServer } from '../testing/test-server.ts';

const assembly = publicFile('as1-oc-214.stp');
let server: TestServer;
let model: string;

beforeAll(async () => {
  await freshDatabase('checks_test');
  server = await TestServer.start();
  model = await server.open('Bracket.stp', assembly);
});
afterAll(() => server.close());

const at = (id = model) => `/models/${id}/revisions/1/clash-checks`;
const ask = async (
  body: object,
  id = model,
): Promise<{ status: number; body: ClashCheck & { detail?: string } }> => {
  const response = await server.send('POST', at(id), body);
  return { status: response.status, body: (await response.json()) as ClashCheck };
};
const finished = async (check: ClashCheck, id = model): Promise<ClashCheck> => {
  await server.until(check.jobId!, ['done', 'failed']);
  return server.get<ClashCheck>(`${at(id)}/${check.id}`);
};

const [rod, nut, other] = ['./rod-assembly/rod', './rod-assembly/nut', './rod-assembly/nut~2'];

/** Answers instead of the kernel, whose answers are tested elsewhere. */
function answered(answer: (pair: { a: string; b: string }, how: string) => object): jest.SpyInstance {
  return jest
    .spyOn(server.worker.get(QuestionsService), 'ask')
    .mockImplementation((_asker, _model, _revision, _name, body) => {
      const { pairs, how } = body as Questions['interference']['asked'];
      return Promise.resolve(pairs.map(({ a, b }) => ({ a, b, ...answer({ a, b }, how!) })));
    });
}
const contact = {
  relation: 'contact',
  distance: 0,
  from: [0, 0, 0],
  to: [0, 0, 0],
  clash: null,
  accuracy: { kind: 'exact' },
};
afterEach(() => jest.restoreAllMocks());

test('a check is a job: its result is kept, and given again to whoever asks the same', async () => {
  const { status, body } = await ask({ about: 'the rod and its nuts', among: [rod, nut, other] });
  expect(status).toBe(200);
  expect(body).toMatchObject({ state: 'running', about: 'the rod and its nuts', found: [] });
  const done = await finished(body);
  // Both nuts sit on the rod.
  expect(done).toMatchObject({ state: 'done', done: done.pairs });
  expect(done.found.map((f) => [f.a, f.b].sort())).toEqual(
    expect.arrayContaining([[nut, rod].sort(), [other, rod].sort()]),
  );
  for (const f of done.found) expect('failed' in f || f.relation !== 'gap').toBe(true);
  expect((await ask({ about: 'in other words', among: [other, nut, rod] })).body).toEqual(done);
  expect(await server.get(at())).toEqual({ check: done });
  // Fewer components are another question.
  answered(() => contact);
  const some = (await ask({ about: 'one', some: [nut] })).body;
  expect(some.id).not.toBe(done.id);
  const near = await finished(some);
  expect(near.found.length).toBeGreaterThan(0);
  for (const f of near.found) expect([f.a, f.b]).toContain(nut);
  expect((await server.get<{ check: ClashCheck }>(at())).check.id).toBe(some.id);
});

test('a check that is cancelled leaves nothing; a worker that ends in the midst of one is followed by another that goes on', async () => {
  const second = await server.open('Other.stp', copyOf(assembly, 'checks'));
  jest
    .spyOn(server.worker.get(QuestionsService), 'ask')
    .mockImplementation(
      (_asker, _model, _revision, _name, _body, signal) =>
        new Promise((_, reject) => signal.addEventListener('abort', () => reject(signal.reason as Error))),
    );
  const first = (await ask({ about: 'all' }, second)).body;
  await server.until(first.jobId!, ['running']);
  expect((await server.send('DELETE', `/jobs/${first.jobId}`)).status).toBe(204);
  expect((await server.send('GET', `${at(second)}/${first.id}`)).status).toBe(404);
  const again = (await ask({ about: 'all' }, second)).body;
  expect(again.id).not.toBe(first.id);
  await server.close();
  await server.start();
  answered(() => contact);
  const done = await finished(again, second);
  expect(done.state).toBe('done');
  expect(done.found).toHaveLength(done.pairs!);
  // With its model it goes, and nothing is left that nobody refers to.
  await server.sql('delete from model where id = $1', [second]);
  expect(await server.sql('select from clash_check where model_id = $1', [second])).toEqual([]);
  await server.worker.get(Garbage).collect(0);
  expect((await server.sql<{ n: number }>(ORPHANS)).filter((o) => o.n > 0)).toEqual([]);
});

test('a wrong question gets a sentence', async () => {
  for (const [body, wanted, sentence] of [
    [{}, 400, /name of a check/],
    [{ about: 'all', among: 'all' }, 400, /named by their paths/],
    [{ about: 'all', some: [7] }, 400, /named by their paths/],
    [{ about: 'all', among: ['./nowhere'] }, 404, /component/],
  ] as const) {
    const { status, body: answer } = await ask(body);
    expect(status).toBe(wanted);
    expect(answer.detail).toMatch(sentence);
  }
  expect(
    (
      await server.send('POST', '/models/00000000-0000-4000-8000-00000000abcd/revisions/1/clash-checks', {
        about: 'all',
      })
    ).status,
  ).toBe(404);
  expect((await server.send('GET', `${at()}/00000000-0000-4000-8000-00000000abcd`)).status).toBe(404);
});

test('what the kernel gives up the meshes answer; a check that was interrupted goes on after what was noted', async () => {
  const third = await server.open('Third.stp', copyOf(assembly, 'third'));
  const asked: { first: string; how: string }[] = [];
  answered(({ a, b }, how) => {
    asked.push({ first: `${a} ${b}`, how });
    return how === 'quick' ? { failed: 'it took too long' } : contact;
  });
  const check = await finished((await ask({ about: 'all' }, third)).body, third);
  expect(check.found).toHaveLength(check.pairs!);
  expect(check.found.every((f) => 'relation' in f && f.relation === 'contact')).toBe(true);
  expect(asked.slice(3, 5).map(({ how }) => how)).toEqual(['quick', 'mesh']);
  // As if its worker had gone away after eight pairs.
  const found = check.found.slice(0, 8);
  await server.sql("update clash_check set state = 'running', done = 8, found = $2 where id = $1", [
    check.id,
    JSON.stringify(found),
  ]);
  asked.length = 0;
  const finish = await server.worker
    .get(ClashesJob)
    .run({ checkId: check.id }, { subject: '', signal: new AbortController().signal, progress: () => {} });
  expect(asked[0].first).toBe(`${check.found[8].a} ${check.found[8].b}`);
  await server.worker.get<Knex>(KNEX).transaction(finish);
  expect(await server.get(`${at(third)}/${check.id}`)).toEqual(check);
});
