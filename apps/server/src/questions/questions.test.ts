import type { ExactCut, ModelDetail } from '@bathyscope/contracts';
import { componentsOf, listOccurrences } from '@bathyscope/core/model';
import { combineSections, propertiesOfCurves } from '@bathyscope/core/section';
import { QUESTIONS } from '@bathyscope/kernel';
import { Answerer } from '../kernel/answerer.ts';
import { QuestionsService } from './questions.service.ts';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { copyOf, freshDatabase, publicFile, TestServer } from '../testing/test-server.ts';

const assembly = publicFile('as1-oc-214.stp');
const [nut, other] = ['./rod-assembly/nut', './rod-assembly/nut~2'];
const nuts = { a: { component: nut, kind: 'part' }, b: { component: other, kind: 'part' } };
let server: TestServer;
let id: string;

beforeAll(async () => {
  await freshDatabase('questions_test');
  server = await TestServer.start();
  id = await server.open('Rod set.stp', assembly);
});
afterAll(() => server.close());
afterEach(() => jest.restoreAllMocks());

const ask = async <T = { distance: number; detail: string }>(
  name: string,
  body: unknown,
  revision: number | string = 1,
): Promise<{ status: number; body: T }> => {
  const response = await server.send('POST', `/models/${id}/revisions/${revision}/questions/${name}`, body);
  return { status: response.status, body: (await response.json()) as T };
};

/** Every question may take so many ms. */
const hurry = (limit: number) => {
  for (const question of Object.values(QUESTIONS)) jest.replaceProperty(question, 'limit', limit);
};

test('questions are answered while a conversion runs', async () => {
  // The first question starts its thread and loads the shapes; what is tested is that the
  // next need not wait its turn.
  await ask('distance', nuts);
  const order: string[] = [];
  const { body } = await server.upload('Busy.stp', copyOf(assembly, 2));
  await server.until(body.job!.id, ['running']);
  const converted = server.until(body.job!.id, ['done']).then(() => order.push('conversion'));
  // Reference value (native OCCT 7.6): 170 mm between the two nuts of the rod.
  expect((await ask('distance', nuts)).body).toMatchObject({
    distance: expect.closeTo(170, 6),
    accuracy: 'exact',
  });
  order.push('question');
  await converted;
  expect(order).toEqual(['question', 'conversion']);
});

test('exact cuts: as native OCCT has them, of all components in their order; a plane or component that is none is refused in a sentence', async () => {
  const cut = (body: object) => ask<ExactCut[] & { detail?: string }>('section', body);
  // The middle of the box across X: two solids, 3,078.5398 mm² in all (native OCCT 7.6; see the kernel's
  // reference sections).
  const all = componentsOf(listOccurrences((await server.get<ModelDetail>(`/models/${id}`)).structure)).map(
    (c) => c.path,
  );
  const across = await cut({ normal: [1, 0, 0], constant: 83.999999994, components: all });
  expect(across.status).toBe(200);
  expect(across.body.map((c) => c.component)).toEqual(all);
  const areas = across.body.map((c) =>
    'loops' in c && c.open === 0 ? (propertiesOfCurves(c.loops)?.area ?? 0) : NaN,
  );
  expect(areas.filter((a) => a > 0)).toHaveLength(2);
  expect(areas.reduce((sum, a) => sum + a)).toBeCloseTo(3078.53982, 2);
  // In a model whose Y is up the same cut is told with Y upwards: (y, z) becomes (−z, y).
  const centre = (cuts: ExactCut[]) =>
    combineSections(cuts.flatMap((c) => ('loops' in c ? (propertiesOfCurves(c.loops) ?? []) : [])))!.centroid;
  const [y, z] = centre(across.body);
  expect(
    centre((await cut({ normal: [1, 0, 0], constant: 83.999999994, up: 'y', components: all })).body),
  ).toEqual([expect.closeTo(-z, 6), expect.closeTo(y, 6)]);
  expect(await cut({ normal: [1, 0, 0], constant: 0, up: 'x', components: [nut] })).toMatchObject({
    status: 400,
    body: { detail: expect.stringContaining('y or z') },
  });
  // A plane that misses them finds nothing, which is an answer.
  expect((await cut({ normal: [0, 0, 1], constant: 5000, components: [nut, other] })).body).toEqual(
    [nut, other].map((component) => ({ component, loops: [], open: 0, tolerance: 0, lean: 1, touches: [] })),
  );
  expect((await cut({ normal: [0, 0, 1], constant: 0, components: [] })).body).toEqual([]);
  expect(await cut({ normal: [0, 0, 2], constant: 0, components: [nut] })).toMatchObject({
    status: 400,
    body: { detail: expect.stringContaining('length 1') },
  });
  expect(await cut({ normal: [0, 1], constant: 0, components: [nut] })).toMatchObject({ status: 400 });
  expect(
    await cut({ normal: [0, 0, 1], constant: 0, components: Array.from({ length: 201 }, () => 'x') }),
  ).toMatchObject({
    status: 400,
    body: { detail: expect.stringContaining('200') },
  });
  expect(await cut({ normal: [0, 0, 1], constant: 0, components: ['./no such thing'] })).toMatchObject({
    status: 404,
  });
});

test('how components stand to each other: gap and contact, pair by pair in their order; what is given up says so', async () => {
  const rod = './rod-assembly/rod';
  const interference = (pairs: unknown, how?: string) =>
    ask<{ relation: string; distance: number; failed?: string; detail?: string }[]>('interference', {
      pairs,
      how,
    });
  const pairs = [
    { a: nut, b: other },
    { a: rod, b: nut },
  ];
  // Reference value (native OCCT 7.6): 170 mm; the nut is screwed onto the rod.
  expect((await interference(pairs)).body).toEqual([
    expect.objectContaining({
      ...pairs[0],
      relation: 'gap',
      distance: expect.closeTo(170, 6),
      clash: null,
      accuracy: { kind: 'exact' },
    }),
    expect.objectContaining({ ...pairs[1], relation: 'contact', distance: 0, clash: null }),
  ]);
  const [quick] = (await interference([pairs[0]], 'quick')).body as unknown as {
    distance: number;
    accuracy: { kind: string; within: number };
  }[];
  expect(quick.accuracy.kind).toBe('mesh');
  expect(Math.abs(quick.distance - 170)).toBeLessThanOrEqual(quick.accuracy.within);
  expect((await interference([])).body).toEqual([]);
  hurry(0);
  expect((await interference([pairs[0]])).body).toEqual([{ ...pairs[0], failed: 'it took too long' }]);
  jest.restoreAllMocks();
  for (const [wrong, status, why] of [
    [Array.from({ length: 101 }, () => pairs[0]), 400, '100 pairs'],
    [[{ a: nut }], 400, 'two components'],
    ['all', 400, 'pairs of components'],
    [[{ a: nut, b: './no such thing' }], 404, 'component'],
  ] as const)
    expect(await interference(wrong)).toMatchObject({
      status,
      body: { detail: expect.stringContaining(why) },
    });
  expect(await interference(pairs, 'roughly')).toMatchObject({
    status: 400,
    body: { detail: expect.stringContaining('exact, quick') },
  });
});

test('what cannot be asked is refused in a sentence', async () => {
  expect(await ask('weather', {})).toMatchObject({
    status: 404,
    body: { detail: expect.stringContaining('distance, interference, section') },
  });
  expect(await ask('__proto__', {})).toMatchObject({ status: 404 });
  expect(await ask('distance', nuts, 7)).toMatchObject({
    status: 404,
    body: { detail: expect.stringContaining('revision') },
  });
  expect(await ask('distance', nuts, 'x')).toMatchObject({ status: 400 });
  expect(await ask('distance', [nuts])).toMatchObject({ status: 400 });
  expect(await ask('distance', { a: nuts.a })).toMatchObject({
    status: 400,
    body: { detail: expect.stringContaining('two picked things') },
  });
  for (const at of [undefined, [1, 2], [1, 2, 'x'], [1, 2, null]])
    expect(await ask('distance', { a: nuts.a, b: { component: other, kind: 'point', at } })).toMatchObject({
      status: 400,
      body: { detail: expect.stringContaining('three coordinates') },
    });
  expect(await ask('distance', { a: nuts.a, b: { component: other, kind: 'smell' } })).toMatchObject({
    status: 400,
    body: { detail: expect.stringContaining('face, edge, vertex or point') },
  });
  expect(
    await ask('distance', { a: { component: nut, kind: 'face', index: 9999 }, b: nuts.b }),
  ).toMatchObject({
    status: 422,
    body: { detail: expect.stringMatching(/no face number 9999/) },
  });
});

test('what takes too long is given up with its reason; what others ask at the same time is answered', async () => {
  const plane = { normal: [0, 1, 0], constant: 75, components: [nut] };
  hurry(0);
  const [late, distance] = [ask<ExactCut[]>('section', plane), ask('distance', nuts)];
  expect((await late).body).toEqual([{ component: nut, failed: 'the exact cut took too long' }]);
  expect(await distance).toMatchObject({
    status: 422,
    body: { detail: 'The least distance could not be found: it took too long.' },
  });
  jest.restoreAllMocks();
  const [cut, again] = [ask<ExactCut[]>('section', plane), ask('distance', nuts)];
  expect((await cut).body).toEqual([expect.objectContaining({ component: nut, open: 0 })]);
  expect((await again).body).toMatchObject({ distance: expect.closeTo(170, 6) });
});

test('the example that each question is described with is understood', async () => {
  for (const [name, { example }] of Object.entries(QUESTIONS)) {
    const { status, body } = await ask(name, example);
    // Its components are those of another model.
    expect([name, status, body.detail]).toEqual([name, 404, expect.stringContaining('component')]);
  }
});

test('a mesh, which has no shape to ask, says so', async () => {
  const mesh = await server.open('Mesh.stp', copyOf(publicFile('cube-mm.step'), 'mesh'));
  const { structure } = await server.get<ModelDetail>(`/models/${mesh}`);
  const [{ path }] = componentsOf(listOccurrences(structure));
  const knex = server.worker.get<Knex>(KNEX);
  const ofMesh = knex('revision_geometry')
    .join('revision', 'revision.id', 'revision_id')
    .where({ model_id: mesh })
    .select('hash');
  await knex('geometry').whereIn('hash', ofMesh).update({ shape: null });
  const answer = await server.send('POST', `/models/${mesh}/revisions/1/questions/section`, {
    normal: [0, 0, 1],
    constant: 1,
    components: [path],
  });
  expect(answer.status).toBe(422);
  expect(await answer.json()).toMatchObject({
    detail: expect.stringContaining('This is a mesh: it has no exact surfaces'),
  });
});

/** The worker answers in threads of its own process, which a test can reach into. */
const threadsOf = () =>
  server.worker.get(Answerer) as unknown as {
    waiting: unknown[];
    slots: { busy: boolean; thread: { ask(): Promise<never>; stop(): Promise<void> } }[];
  };
const askInThreads = (signal = new AbortController().signal) =>
  server.worker
    .get(QuestionsService)
    .ask('somebody', id, 1, 'distance', nuts, signal)
    .then(
      () => 'answered',
      (error: Error) => error.name,
    );

test('one thread that hangs does not fail the question of another', async () => {
  // Threads that have started and hold the shapes: what the others take is then far from
  // the limit on any machine.
  await Promise.all(threadsOf().slots.map(() => askInThreads()));
  const hanging = threadsOf().slots[0].thread;
  // A thread that never answers, until its limit ends it.
  jest
    .spyOn(hanging, 'ask')
    .mockImplementation(
      () =>
        new Promise((_, reject) =>
          jest
            .spyOn(hanging, 'stop')
            .mockImplementationOnce(() =>
              Promise.resolve(reject(Object.assign(new Error('stopped'), { name: 'KernelStopped' }))),
            ),
        ),
    );
  hurry(15_000);
  const answers = await Promise.all(Array.from({ length: 4 }, () => askInThreads()));
  expect(answers.filter((a) => a === 'answered')).toHaveLength(3);
  jest.restoreAllMocks();
});

test('whoever goes away is dropped from the queue', async () => {
  const threads = threadsOf();
  threads.slots.forEach((s) => (s.busy = true));
  const gone = new AbortController();
  const asked = Array.from({ length: 5 }, () => askInThreads(gone.signal));
  while (threads.waiting.length < 5) await new Promise((r) => setTimeout(r, 20));
  gone.abort();
  expect(await Promise.all(asked)).toEqual(Array.from({ length: 5 }, () => 'AbortError'));
  expect(threads.waiting).toEqual([]);
  threads.slots.forEach((s) => (s.busy = false));
  expect(await askInThreads()).toBe('answered');
});

describe('the process of the questions', () => {
  const processOf = () =>
    server.app.get(Answerer) as unknown as {
      child: { pid: number; kill(signal: string): void } | null;
      asked: Map<number, unknown>;
    };
  const underWay = async (n: number) => {
    while (processOf().asked.size < n) await new Promise((r) => setTimeout(r, 5));
  };

  test('is not the web server’s, and who goes away leaves nothing in it', async () => {
    expect((await ask('distance', nuts)).status).toBe(200);
    expect(processOf().child!.pid).not.toBe(process.pid);
    hold();
    const gone = new AbortController();
    const left = fetch(`${server.address}/api/models/${id}/revisions/1/questions/distance`, {
      method: 'POST',
      signal: gone.signal,
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(nuts),
    }).catch(() => 'gone');
    await underWay(1);
    gone.abort();
    expect(await left).toBe('gone');
    processOf().child!.kill('SIGCONT');
    for (let i = 0; i < 500 && processOf().asked.size; i++) await new Promise((r) => setTimeout(r, 20));
    expect(processOf().asked.size).toBe(0);
  });

  /** Holds it, so that what is asked then is under way until it is killed, however fast the machine is. */
  const hold = () => processOf().child!.kill('SIGSTOP');
  /** Kills it, and waits until its end is known: what it was at is with another one then, or given up. */
  const die = async () => {
    const { child } = processOf();
    child!.kill('SIGKILL');
    while (processOf().child === child) await new Promise((r) => setTimeout(r, 5));
  };

  test('may die: what it was at is answered by the next one', async () => {
    hold();
    const asked = Array.from({ length: 5 }, () => ask<{ distance: number }>('distance', nuts));
    await underWay(5);
    await die();
    for (const { status, body } of await Promise.all(asked))
      expect([status, body.distance]).toEqual([200, expect.closeTo(170, 6)]);
  });

  test('a question that it dies of is given up after the second time, and none beside it', async () => {
    expect((await ask('distance', nuts)).status).toBe(200);
    hold();
    const deadly = ask('distance', nuts);
    await underWay(1);
    await die();
    await die();
    const other = ask('distance', nuts);
    expect(await deadly).toMatchObject({
      status: 422,
      body: { detail: expect.stringContaining('the kernel could not do it') },
    });
    expect((await other).status).toBe(200);
  });
});

test('the API describes itself, and each question', async () => {
  const description = await server.get<{
    paths: Record<
      string,
      { post?: { summary: string; parameters: { name: string; schema: { enum?: string[] } }[] } }
    >;
  }>('/docs-json');
  expect(Object.keys(description.paths)).toEqual(
    expect.arrayContaining(['/api/models', '/api/jobs/{id}', '/api/geometries/{hash}']),
  );
  const { post } = description.paths['/api/models/{id}/revisions/{revision}/questions/{name}'];
  expect(post!.parameters.find((p) => p.name === 'name')!.schema.enum).toEqual(Object.keys(QUESTIONS));
  expect(post!.summary).toContain(QUESTIONS.section.summary);
});
