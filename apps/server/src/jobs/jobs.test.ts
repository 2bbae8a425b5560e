import type { ModelDetail } from '@bathyscope/contracts';
import { ConverterService, conversionLimits } from '../kernel/converter.service.ts';
import { KernelRefusal } from '../kernel/kernel-thread.ts';
import { copyOf, freshDatabase, ORPHANS, publicFile, TestServer } from '../testing/test-server.ts';
import { Garbage } from '../worker/garbage.ts';
import { JobRunner } from '../worker/job-runner.ts';
import { Outdated } from '../worker/outdated.ts';

const assembly = publicFile('as1-oc-214.stp');
let server: TestServer;
let copies = 0;
/** The same assembly under bytes that were not seen before. */
const fresh = (): Buffer => copyOf(assembly, ++copies);

beforeAll(async () => {
  await freshDatabase('jobs_test');
  server = await TestServer.start();
});
afterAll(() => server.close());

const collected = async () => {
  await server.worker.get(Garbage).collect(0);
  return (await server.sql<{ what: string; n: number }>(ORPHANS)).filter((o) => o.n > 0);
};
const modelStatus = async (id: string) => (await server.send('GET', `/models/${id}`)).status;

/** Waits for a state in the database, which lags behind nothing. */
const untilRow = async (query: string, values: unknown[]): Promise<void> => {
  for (let i = 0; i < 1200; i++) {
    if ((await server.sql(query, values)).length) return;
    await new Promise((r) => setTimeout(r, 50));
  }
  throw new Error(`Never: ${query}`);
};

test('a kernel that crashes takes neither the worker nor the job with it; twice is enough', async () => {
  const crash = async () =>
    (
      await (
        server.worker.get(ConverterService) as unknown as {
          threads: Promise<{ short: { worker: { terminate(): Promise<number> } } }>;
        }
      ).threads
    ).short.worker.terminate();
  const { body } = await server.upload('Fragile.stp', fresh());
  await server.until(body.job!.id, ['running']);
  await untilRow(`select from job where id = $1 and progress > 0`, [body.job!.id]);
  await crash();
  expect((await server.until(body.job!.id, ['done', 'failed'])).state).toBe('done');

  const second = await server.upload('Hopeless.stp', fresh());
  for (let attempts = 0; attempts < 2; attempts++) {
    await untilRow(`select from job where id = $1 and state = 'running' and attempts = $2 and progress > 0`, [
      second.body.job!.id,
      attempts,
    ]);
    await crash();
  }
  expect(await server.until(second.body.job!.id, ['failed', 'done'])).toMatchObject({
    state: 'failed',
    modelId: null,
    problem: { detail: expect.stringContaining('was given up') },
  });
  expect(await modelStatus(second.body.model.id)).toBe(404);
  expect(await collected()).toEqual([]);
});

test('a conversion interrupted by a restart is taken up again', async () => {
  const { body } = await server.upload('Interrupted.stp', fresh());
  await server.until(body.job!.id, ['running']);
  await server.close();
  await server.start();
  expect((await server.until(body.job!.id, ['done', 'failed'])).state).toBe('done');
  expect(await server.get(`/models/${body.model.id}`)).toMatchObject({ state: 'ready' });
});

test('progress is told by server-sent events', async () => {
  const stop = new AbortController();
  const events = await fetch(`${server.address}/api/events`, { signal: stop.signal });
  const seen: { id: string; state: string; progress: number }[] = [];
  const { body } = await server.upload('Watched.stp', fresh());
  const decoder = new TextDecoder();
  const reader = events.body!.getReader();
  let rest = '';
  while (!seen.some((e) => e.id === body.job!.id && e.state === 'done')) {
    rest += decoder.decode((await reader.read()).value, { stream: true });
    const lines = rest.split('\n');
    rest = lines.pop()!;
    for (const line of lines) if (line.startsWith('data: {')) seen.push(JSON.parse(line.slice(6)));
  }
  stop.abort();
  const mine = seen.filter((e) => e.id === body.job!.id);
  expect(new Set(mine.map((e) => e.state))).toEqual(new Set(['queued', 'running', 'done']));
  expect(mine.some((e) => e.progress > 0 && e.progress < 1)).toBe(true);
});

test('finishing is one step: when it fails the model is neither half ready nor lost, and is finished by another try', async () => {
  // The first time that a job is marked as done, the database refuses.
  await server.sql(`create sequence once;
    create function refuse_once() returns trigger language plpgsql as $$ begin if new.state = 'done' and nextval('once') = 1 then raise exception 'refused for the test'; end if; return new; end $$;
    create trigger refuse_once before update on job for each row execute function refuse_once()`);
  const { body } = await server.upload('Finished twice.stp', fresh());
  await untilRow(`select from job where id = $1 and attempts = 1`, [body.job!.id]);
  expect(
    await server.sql(`select state from revision where model_id = $1 and state = 'ready'`, [body.model.id]),
  ).toEqual([]);
  expect((await server.until(body.job!.id, ['done', 'failed'])).state).toBe('done');
  await server.sql('drop trigger refuse_once on job; drop function refuse_once; drop sequence once');
  expect(await server.get(`/models/${body.model.id}`)).toMatchObject({
    state: 'ready',
    summary: { counts: { components: 18 } },
  });
});

test('a ready model is never discarded by a job, whatever the job’s row says', async () => {
  const { body } = await server.upload('Ready.stp', fresh());
  await server.until(body.job!.id, ['done']);
  // As after a crash at the worst moment, again and again.
  await server.sql(
    `update job set state = 'running', lease = gen_random_uuid(), lease_until = now() - interval '1 second', interruptions = 99 where id = $1`,
    [body.job!.id],
  );
  await server.worker.get(JobRunner).sweep();
  expect((await server.until(body.job!.id, ['failed'])).state).toBe('failed');
  expect(await server.get(`/models/${body.model.id}`)).toMatchObject({ state: 'ready' });
  await server.sql(`update job set state = 'queued' where id = $1`, [body.job!.id]);
  expect((await server.send('DELETE', `/jobs/${body.job!.id}`)).status).toBe(204);
  expect(await server.get(`/models/${body.model.id}`)).toMatchObject({ state: 'ready' });
  expect(await collected()).toEqual([]);
});

test('cancelling a waiting job takes nothing from the one that runs, although both have the same parts', async () => {
  await server.sql('truncate model cascade');
  await server.worker.get(Garbage).collect(0);
  const running = await server.upload('Runs.stp', fresh());
  await untilRow(`select from job where id = $1 and state = 'running'`, [running.body.job!.id]);
  await untilRow('select from geometry', []);
  const waiting = await server.upload('Waits.stp', fresh());
  expect((await server.send('DELETE', `/jobs/${waiting.body.job!.id}`)).status).toBe(204);
  // Nor does a collection at that moment: what is stored is claimed.
  await server.worker.get(Garbage).collect(0);
  await server.until(running.body.job!.id, ['done']);
  const { structure } = await server.get<ModelDetail>(`/models/${running.body.model.id}`);
  for (const part of structure.parts)
    expect((await server.send('GET', `/geometries/${part.geometry}`)).status).toBe(200);
  expect(await modelStatus(waiting.body.model.id)).toBe(404);
  expect(await collected()).toEqual([]);
});

test('a running job that is cancelled stops at once, and the next starts', async () => {
  const { body } = await server.upload('Cancelled.stp', fresh());
  const next = await server.upload('Next.stp', fresh());
  await untilRow(`select from job where id = $1 and state = 'running'`, [body.job!.id]);
  expect((await server.send('DELETE', `/jobs/${body.job!.id}`)).status).toBe(204);
  expect((await server.until(next.body.job!.id, ['done', 'failed'])).state).toBe('done');
  expect(await modelStatus(body.model.id)).toBe(404);
  expect((await server.send('GET', `/jobs/${body.job!.id}`)).status).toBe(404);
  expect(await collected()).toEqual([]);
});

test('who cancels what another put on the shelf as well takes back the own wish only', async () => {
  const first = await server.upload('Before.stp', fresh());
  await untilRow(`select from job where id = $1 and state = 'running'`, [first.body.job!.id]);
  const bytes = fresh();
  const [ann, ben] = [await server.cookie(), await server.cookie()];
  const { body } = await server.uploadBy(ann, 'Both.stp', bytes);
  expect((await server.uploadBy(ben, 'Both again.stp', bytes)).body).toMatchObject({
    duplicate: true,
    model: { id: body.model.id },
  });
  const cancel = (cookie: string) =>
    fetch(`${server.address}/api/jobs/${body.job!.id}`, { method: 'DELETE', headers: { Cookie: cookie } });
  const refused = await cancel(ann);
  expect([refused.status, ((await refused.json()) as { detail: string }).detail]).toEqual([
    409,
    expect.stringContaining('goes on for them'),
  ]);
  expect((await server.until(body.job!.id, ['done', 'failed'])).state).toBe('done');
  // The last of them takes it away.
  const other = await server.uploadBy(ann, 'Alone.stp', fresh());
  expect(
    (
      await fetch(`${server.address}/api/jobs/${other.body.job!.id}`, {
        method: 'DELETE',
        headers: { Cookie: ann },
      })
    ).status,
  ).toBe(204);
  expect(await modelStatus(other.body.model.id)).toBe(404);
});

test('a job whose worker went away is taken up by another; who has lost a lease can store nothing', async () => {
  const { body } = await server.upload('Orphan.stp', fresh());
  await untilRow(`select from job where id = $1 and state = 'running'`, [body.job!.id]);
  // As if another had taken it up while this worker was asleep: its lease is not the job's any more.
  await server.sql(
    `update job set lease = gen_random_uuid(), lease_until = now() - interval '1 second' where id = $1`,
    [body.job!.id],
  );
  await server.worker.get(JobRunner).sweep();
  expect((await server.until(body.job!.id, ['done', 'failed'])).state).toBe('done');
  expect(await server.sql('select interruptions from job where id = $1', [body.job!.id])).toEqual([
    { interruptions: 1 },
  ]);
  // A job that the queue has lost is put into it again.
  const lost = await server.upload('Lost.stp', fresh());
  await server.sql(`delete from graphile_worker._private_jobs where key = $1`, [lost.body.job!.id]);
  await server.sql(
    `update job set state = 'queued', lease = null, changed_at = now() - interval '1 minute' where id = $1`,
    [lost.body.job!.id],
  );
  await server.worker.get(JobRunner).sweep();
  expect((await server.until(lost.body.job!.id, ['done', 'failed'])).state).toBe('done');
});

test('a conversion that exceeds a limit is given up with a sentence, and the next starts in a fresh thread at once', async () => {
  const converter = server.worker.get(ConverterService);
  const limits = { silence: () => 60_000, total: () => 60_000, memory: 1e12 };
  const convert = (more: object) =>
    converter.convert(assembly, 'Limited.stp', () => {}, new AbortController().signal, {
      ...limits,
      ...more,
    });
  await expect(convert({ silence: () => 1 })).rejects.toThrow(/no progress for/);
  await expect(convert({ total: () => 1 })).rejects.toThrow(/longest that a file of this size may take/);
  await expect(convert({ memory: 1 })).rejects.toThrow(/needed more than 0 MB of memory/);
  await expect(convert({ total: () => 1 })).rejects.toThrow(KernelRefusal);
  expect((await convert({})).structure.parts).toHaveLength(5);
});

test('a small file is given up sooner than a large one, and none sooner than half a minute', () => {
  const { silence, total } = conversionLimits();
  const MB = 1024 * 1024;
  expect([28_000, MB, 10 * MB, 100 * MB].map((size) => silence(size) / 1000)).toEqual([30, 30, 180, 720]);
  expect([0, 10 * MB, 100 * MB].map((size) => total(size) / 60_000)).toEqual([2, 30, 210]);
});

test('a short file waits neither for a long one nor for the many of somebody else', async () => {
  const converter = server.worker.get(ConverterService);
  const convert = converter.convert.bind(converter);
  const order: string[] = [];
  let letGo = () => {};
  const held = new Promise<void>((resolve) => (letGo = resolve));
  const slow = jest.spyOn(converter, 'convert').mockImplementation(async (...args) => {
    order.push(args[1]);
    if (args[1] === 'Long.stp') await held;
    return convert(...args);
  });
  const long = Buffer.from(
    fresh()
      .toString('latin1')
      .replace('DATA;', `DATA;${'\n'.repeat(2.5e6)}`),
    'latin1',
  );
  const jobs = [await server.upload('Long.stp', long)];
  await server.until(jobs[0].body.job!.id, ['running']);
  for (let i = 0; i < 4; i++) jobs.push(await server.upload(`Many ${i}.stp`, fresh()));
  jobs.push(await server.uploadBy(await server.cookie(), 'Other.stp', fresh()));
  for (const { body } of jobs.slice(1))
    expect((await server.until(body.job!.id, ['done', 'failed'])).state).toBe('done');
  letGo();
  expect((await server.until(jobs[0].body.job!.id, ['done', 'failed'])).state).toBe('done');
  slow.mockRestore();
  expect(order[0]).toBe('Long.stp');
  expect(order.indexOf('Other.stp')).toBeLessThan(order.indexOf('Many 2.stp'));
});

test('a job fails with all its words, however many: a notice of them is short, the job itself has all', async () => {
  const words = `The file is wrong: ${'“\u0001quoted” '.repeat(2000)}`;
  const failing = jest
    .spyOn(server.worker.get(ConverterService), 'convert')
    .mockRejectedValue(new KernelRefusal(words));
  const { body } = await server.upload('Wordy.stp', fresh());
  const { state, problem } = await server.until(body.job!.id, ['done', 'failed']);
  failing.mockRestore();
  expect([state, problem!.detail]).toEqual(['failed', words]);
  expect(await server.sql('select attempts from job where id = $1', [body.job!.id])).toEqual([
    { attempts: 0 },
  ]);
});

test('a file that refers to itself in a circle neither hangs the next nor shows the kernel’s words', async () => {
  const circle = Buffer.from(
    publicFile('cube-mm.step')
      .toString('latin1')
      .replace(/(#\d+)\s*=\s*CLOSED_SHELL\s*\([^;]*\);/, "$1=CLOSED_SHELL('',($1));"),
    'latin1',
  );
  for (const n of [1, 2]) {
    const { body } = await server.upload(`Circle ${n}.stp`, copyOf(circle, n));
    const { state, problem } = await server.until(body.job!.id, ['done', 'failed'], 60);
    if (state === 'failed')
      expect(problem!.detail).toMatch(
        /^The STEP file .*(holds no faces|could not be read|contradicts itself)/,
      );
    expect(
      (await server.until((await server.upload('After.stp', fresh())).body.job!.id, ['done', 'failed'], 60))
        .state,
    ).toBe('done');
  }
});

test('a database without room makes a conversion wait, and it goes on when there is room', async () => {
  await server.sql('truncate model cascade');
  await server.worker.get(Garbage).collect(0);
  await server.sql(`create function no_room() returns trigger language plpgsql as $$ begin raise exception 'could not extend file: No space left on device' using errcode = '53100'; end $$;
    create trigger no_room before insert on geometry execute function no_room()`);
  const { body } = await server.upload('Waits for room.stp', fresh());
  await untilRow(`select from job where id = $1 and stage = 'no room'`, [body.job!.id]);
  await server.sql('drop trigger no_room on geometry; drop function no_room');
  expect((await server.until(body.job!.id, ['done', 'failed'])).state).toBe('done');
});

test('what an older converter made is converted again, what it made is served until then, and stays where that fails', async () => {
  const converter = server.worker.get(ConverterService);
  const outdated = server.worker.get(Outdated);
  const id = await server.open('Old.stp', fresh());
  let version = await converter.version();
  for (; !version; version = await converter.version()) await new Promise((r) => setTimeout(r, 50));
  const now = version;
  const detail = () => server.get<ModelDetail>(`/models/${id}`);
  const before = await detail();
  const converterOf = async () =>
    (await server.sql('select converter from revision where model_id = $1', [id]))[0];
  expect(await converterOf()).toEqual({ converter: now });
  const made = () =>
    server.sql<{ id: string }>(`select id from job where kind = 'convert-again' order by created_at`);
  const again = async () => {
    const before = await made();
    // As before versions were kept. The worker, which looks when a job has ended, may be the first to see it.
    const older = `update revision set converter = null, structure = jsonb_set(structure, '{root,name}', '"As it was"') where model_id = $1`;
    await server.sql(older, [id]);
    // One at a time, whoever asks.
    await outdated.enqueueNext(now);
    await outdated.enqueueNext(now);
    const jobs = await made();
    expect(jobs).toHaveLength(before.length + 1);
    return server.until(jobs.at(-1)!.id, ['done', 'failed']);
  };
  const failing = jest
    .spyOn(converter, 'convert')
    .mockRejectedValue(new KernelRefusal('It cannot be read any more.'));
  expect((await again()).state).toBe('failed');
  failing.mockRestore();
  const [{ name }] = await server.sql<{ name: string }>(
    `select structure #>> '{root,name}' as name from revision where model_id = $1`,
    [id],
  );
  expect(name).toBe('As it was');
  expect(await converterOf()).toEqual({ converter: now });
  const second = await again();
  expect([second.state, second.problem]).toEqual(['done', null]);
  expect(await detail()).toMatchObject({ revision: 1, structure: before.structure });
  expect(await converterOf()).toEqual({ converter: now });
  // A newer one's work is not undone by an older one, which may still be there.
  await server.sql(`update setting set value = value || '["a newer one"]' where key = 'converters'`);
  await server.sql(`update revision set converter = 'a newer one' where model_id = $1`, [id]);
  await outdated.enqueueNext(now);
  expect(await made()).toHaveLength(2);
  expect(await collected()).toEqual([]);
});
