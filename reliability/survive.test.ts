import type { JobView, ModelDetail, ModelListItem } from '@bathyscope/contracts';
import { BinRepository } from '../apps/server/src/bin/bin.repository.ts';
import { JobsRepository } from '../apps/server/src/jobs/jobs.repository.ts';
import { ORPHANS } from '../apps/server/src/testing/test-server.ts';
import { Garbage } from '../apps/server/src/worker/garbage.ts';
import { publicFile, Running, seeded, SOAK, wait } from './running.ts';

/*
 * The application as bin/start runs it, with two workers, while its processes are killed at random moments.
 */

jest.setTimeout(SOAK * 600_000);

const running = new Running();
const random = seeded(20_261_126);
const assembly = publicFile('as1-oc-214.stp');
const cube = publicFile('cube-mm.step');
let copies = 0;
const fresh = (text: string): string =>
  text.replace('END-ISO-10303-21;', `/* ${++copies} */\nEND-ISO-10303-21;`);

beforeAll(() => running.start());
afterAll(async () => {
  await running.interrupt().catch(() => {});
  running.remove();
});

const jobs = async () => (await running.get<JobView[]>('/jobs')).body;
const settled = () =>
  running.until(async () => (await jobs()).every((j) => j.state === 'failed'), 'all jobs have ended');

/** What nothing refers to, in any table, once what is old enough was collected. */
const orphans = () =>
  running.database(async (knex) => {
    await new Garbage(knex, new JobsRepository(knex), new BinRepository(knex)).collect(0);
    return ((await knex.raw(ORPHANS)).rows as { what: string; n: number }[]).filter((o) => o.n > 0);
  });

/** Model and all geometry that it names can be had. */
async function readable(id: string): Promise<boolean> {
  const { status, body } = await running.get<ModelDetail>(`/models/${id}`);
  if (status !== 200 || body.state !== 'ready') return false;
  for (const hash of new Set(body.structure.parts.map((p) => p.geometry)))
    if ((await running.get(`/geometries/${hash}`)).status !== 200) return false;
  return true;
}

test('200 readers at once are all served while a file is converted', async () => {
  await settled();
  const models = (await running.get<ModelListItem[]>('/models')).body;
  const { structure } = (await running.get<ModelDetail>(`/models/${models[0].id}`)).body;
  const { body } = await running.upload('Under way.stp', fresh(assembly));
  const urls = [`/models/${models[0].id}`, '/models', `/geometries/${structure.parts[0].geometry}`, '/jobs'];
  const answers = await Promise.all(
    Array.from({ length: 200 }, (_, i) => running.get(urls[i % urls.length])),
  );
  expect(answers.filter((a) => a.status !== 200)).toEqual([]);
  await settled();
  expect(await readable(body.model.id)).toBe(true);
});

test('kills of web server, workers and database at random moments lose nothing, leave nothing half-made, and stop nothing', async () => {
  const accepted = new Map<string, string>();
  let ended = false;
  /** Sends file after file; one that is not answered is sent again, as a user would. */
  const sender = async (text: string) => {
    while (!ended) {
      const [name, bytes] = [`Sent ${copies + 1}.stp`, fresh(text)];
      for (;;) {
        const { status, body } = await running.upload(name, bytes);
        if (status === 201) accepted.set(bytes, body.model.id);
        if (status === 201 || (ended && status === 0)) break;
        expect([0, 400, 503]).toContain(status);
        await wait(200);
      }
      await wait(400 * random());
    }
  };
  const killer = async (what: 'main.js' | 'worker.js' | 'postgres', times: number, pause: number) => {
    for (let i = 0; i < times * SOAK; i++) {
      await wait(pause * random());
      await running.kill(what, random);
    }
  };
  const senders = [sender(cube), sender(cube), sender(assembly)];
  await Promise.all([
    killer('main.js', 20, 5000),
    killer('worker.js', 20, 5000),
    killer('postgres', 5, 15_000),
  ]);
  ended = true;
  await Promise.all(senders);
  await running.until(async () => (await running.get('/models')).status === 200, 'it answers again');
  await settled();
  expect(await jobs()).toEqual([]);
  // How many is a matter of the machine's pace; what was taken is there, once each, and nothing that was not.
  process.stdout.write(`While it was killed, ${accepted.size} uploads were accepted.\n`);
  expect(accepted.size).toBeGreaterThan(0);
  expect(new Set(accepted.values()).size).toBe(accepted.size);
  for (const id of accepted.values()) expect([id, await readable(id)]).toEqual([id, true]);
  expect(
    await running.database(
      async (knex) =>
        (await knex.raw('select file_hash from revision group by file_hash having count(*) > 1')).rows,
    ),
  ).toEqual([]);
  expect(await orphans()).toEqual([]);
});

test('a web server that is killed as it starts takes its process of the questions with it', async () => {
  // Restarts are counted until a process has lived for ten seconds; too many end all.
  await wait(11_000);
  for (let i = 0; i < 8; i++) {
    const before = running.pids('main.js');
    await running.kill('main.js', random);
    // At all moments of the start of the process that it begins.
    await running.until(
      () => Promise.resolve(running.pids('main.js').some((pid) => !before.includes(pid))),
      'it is started',
    );
    await wait(350 * i);
  }
  await running.until(async () => (await running.get('/models')).status === 200, 'it answers again');
  await running.until(() => Promise.resolve(running.strays().length === 0), 'none is left behind', 30);
});

test('a start that was killed is taken over by the next, on the same port and data', async () => {
  const before = (await running.get<ModelListItem[]>('/models')).body.length;
  const { body } = await running.upload('Before.stp', fresh(assembly));
  await running.killStarter();
  await running.start();
  expect(running.said).toContain('Taking over');
  expect(running.said).not.toContain('another program');
  await settled();
  expect(await readable(body.model.id)).toBe(true);
  expect((await running.get<ModelListItem[]>('/models')).body).toHaveLength(before + 1);
});

test('Ctrl+C ends everything while pages are open and files are converted; nothing is lost by it', async () => {
  const pages = Array.from({ length: 5 }, () =>
    fetch(`${running.address}/api/events`)
      .then((r) => r.text())
      .catch(() => ''),
  );
  const { body } = await running.upload('Interrupted.stp', fresh(assembly));
  await wait(300);
  process.stdout.write(
    `Everything had ended after ${await running.interrupt()} ms; three seconds are promised on a quiet machine.\n`,
  );
  await Promise.all(pages);
  await running.start();
  await settled();
  expect(await readable(body.model.id)).toBe(true);
  expect(await orphans()).toEqual([]);
});
