import { randomUUID } from 'node:crypto';
import type { KeptRecord, RecordAnswer, RecordChange } from '@bathyscope/contracts';
import { copyOf, freshDatabase, publicFile, TestServer } from '../testing/test-server.ts';

let server: TestServer;
let id: string;
let other: string;

beforeAll(async () => {
  await freshDatabase('records_test');
  server = await TestServer.start();
  const cube = publicFile('cube-mm.step');
  [id, other] = [await server.open('Cube.stp', cube), await server.open('Other.stp', copyOf(cube, 'other'))];
});
afterAll(() => server.close());

const weight = (name: string) => ({ name, mass: 2, centreOfGravity: [0, 0, 1], revision: 1 });
const change = (more: Partial<RecordChange> = {}): RecordChange => ({
  id: randomUUID(),
  kind: 'kept-weight',
  version: 1,
  document: weight('Before'),
  position: 1,
  deleted: false,
  match: null,
  ...more,
});
type Browser = Awaited<ReturnType<TestServer['browser']>>;
const send = async (from: Browser, changes: RecordChange[], model = id): Promise<RecordAnswer[]> =>
  (await (await from('PATCH', `/models/${model}/records`, { changes })).json()) as RecordAnswer[];
const list = (query = '', model = id) => server.get<KeptRecord[]>(`/models/${model}/records${query}`);

test('a record is made, found, changed by what it was made of, put into the bin, back, and deleted for good', async () => {
  const ann = await server.browser();
  const ben = await server.browser();
  await ann('PUT', '/profile', { name: 'Ann' });
  const address = `/models/${id}/records/${randomUUID()}`;
  const put = (from: Browser, name: string, match?: string) =>
    fetch(`${server.address}/api${address}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json', ...(match && { 'If-Match': match }) },
      body: JSON.stringify({ kind: 'kept-weight', version: 1, document: weight(name) }),
    });
  const made = await ann('PUT', address, { kind: 'kept-weight', version: 1, document: weight('Before') });
  expect([made.status, made.headers.get('etag')]).toEqual([200, '"1"']);
  const record = (await made.json()) as KeptRecord;
  expect(record).toMatchObject({
    document: weight('Before'),
    rev: 1,
    madeOn: 1,
    author: { name: 'Ann', you: true },
    deletedAt: null,
  });
  expect(await (await ben('GET', address)).json()).toMatchObject({ author: { name: 'Ann', you: false } });
  // Sending it twice is one.
  expect((await put(ann, 'Before')).headers.get('etag')).toBe('"1"');
  const late = await put(ben, 'Mine');
  expect([late.status, ((await late.json()) as { record: KeptRecord }).record.document]).toEqual([
    412,
    weight('Before'),
  ]);
  expect((await put(ben, 'Mine', '"1"')).headers.get('etag')).toBe('"2"');
  expect((await put(ben, 'Mine', 'yesterday')).status).toBe(400);
  expect(((await (await ann('DELETE', address)).json()) as KeptRecord).deletedAt).not.toBeNull();
  expect([await list(), (await list('?bin=true')).map((r) => r.document)]).toEqual([[], [weight('Mine')]]);
  expect(((await (await ann('POST', `${address}/restore`)).json()) as KeptRecord).rev).toBe(4);
  expect((await ann('DELETE', `${address}/for-good`)).status).toBe(404);
  await ann('DELETE', address);
  expect((await ann('DELETE', `${address}/for-good`)).status).toBe(204);
  expect((await ann('GET', address)).status).toBe(404);
});

test('changes of many are answered one by one: stored, changed by someone meanwhile, refused with a sentence', async () => {
  const [ann, ben] = [await server.browser(), await server.browser()];
  const [one, two] = [change(), change()];
  expect((await send(ann, [one, two])).map((a) => [a.outcome, a.record?.rev])).toEqual([
    ['stored', 1],
    ['stored', 1],
  ]);
  await send(ben, [{ ...one, match: 1, document: weight('Ben’s') }]);
  const answers = await send(ann, [
    { ...one, match: 1, document: weight('Ann’s') },
    { ...two, match: 1, position: 7 },
    change({ kind: 'tide' }),
    change({ version: 99 }),
    change({ document: { name: 'no mass' } }),
    change({ id: id.replace(/^.{8}/, '00000000'), document: weight('New') }),
  ]);
  expect(answers.map((a) => [a.outcome, a.problem ?? (a.record?.document['name'] as string)])).toEqual([
    ['changed', 'Ben’s'],
    ['stored', 'Before'],
    ['refused', expect.stringContaining('knows no “tide”')],
    ['refused', expect.stringContaining('newer version')],
    ['refused', expect.stringContaining('no “kept-weight”')],
    ['stored', 'New'],
  ]);
  // What belongs to another model, or is another thing, stays.
  expect((await send(ann, [{ ...one, match: 2 }], other))[0]).toMatchObject({
    outcome: 'refused',
    record: null,
  });
  expect((await send(ann, [{ ...one, kind: 'pick-set', match: 2 }]))[0].problem).toContain(
    'belongs to another thing',
  );
  expect((await list()).find((r) => r.id === one.id)).toMatchObject({ document: weight('Ben’s'), rev: 2 });
  // Of many at once that change one, one gets through, and the others are told what there is.
  const all = await Promise.all(
    [1, 2, 3, 4, 5].map((n) => send(ann, [{ ...one, match: 2, document: weight(`At once ${n}`) }])),
  );
  expect(all.map(([a]) => a.outcome).sort()).toEqual(['changed', 'changed', 'changed', 'changed', 'stored']);
});

test('what a newer version wrote stays as it is; what only it knows in a document of this version stays too', async () => {
  const ann = await server.browser();
  const [newer, more] = [change(), change({ document: { ...weight('More'), tide: { height: 3 } } })];
  await send(ann, [newer, more]);
  await server.sql('update record set version = 99 where id = $1', [newer.id]);
  for (const tried of [
    { ...newer, match: 1, document: weight('Old') },
    { ...newer, version: 99, match: 1, deleted: true },
  ])
    expect((await send(ann, [tried]))[0].problem).toContain('stays as it is');
  expect((await list(`?ids=${newer.id},${more.id}`)).map((r) => [r.version, r.document]).sort()).toEqual([
    [1, { ...weight('More'), tide: { height: 3 } }],
    [99, weight('Before')],
  ]);
});

test('bad requests are told what is wrong, and change nothing', async () => {
  const ann = await server.browser();
  const before = await list();
  const refused = async (body: unknown, model = id) => {
    const answer = await ann('PATCH', `/models/${model}/records`, body);
    return [answer.status, ((await answer.json()) as { detail: string }).detail];
  };
  const one = change();
  for (const changes of [
    'all',
    [{ ...one, id: 'x' }],
    [one, one],
    [{ ...one, document: [] }],
    [{ ...one, position: null }],
    [{ ...one, match: -1 }],
    Array.from({ length: 501 }, () => change()),
  ])
    expect(await refused({ changes })).toEqual([400, expect.stringContaining('at most 500 records')]);
  expect(
    await refused({ changes: [change({ document: { ...weight('Large'), more: 'x'.repeat(5e6) } })] }),
  ).toEqual([413, expect.stringContaining('4 MB')]);
  expect(await refused({ changes: [one] }, randomUUID())).toEqual([
    404,
    expect.stringContaining('no such model'),
  ]);
  expect((await ann('GET', `/models/${id}/records?ids=all`)).status).toBe(400);
  expect(await list()).toEqual(before);
});

test('a model with 20,000 records is listed whole, and takes more until there is no room', async () => {
  const many = await server.open('Many.stp', copyOf(publicFile('cube-mm.step'), 'many'));
  const fill = (n: number, from: number) =>
    server.sql(
      `insert into record (id, model_id, kind, version, document, position, made_on)
       select gen_random_uuid(), $1, 'kept-weight', 1, $2::jsonb || jsonb_build_object('name', n), n, 1 from generate_series($3::int, $4::int) n`,
      [many, JSON.stringify(weight('')), from, from + n - 1],
    );
  await fill(20_000, 1);
  const all = await list('', many);
  expect(new Set(all.map((r) => r.document['name'])).size).toBe(20_000);
  const ann = await server.browser();
  expect((await send(ann, [change()], many))[0].outcome).toBe('stored');
  await fill(29_998, 30_000);
  expect((await send(ann, [change(), change()], many)).map((a) => a.problem ?? a.outcome)).toEqual([
    'stored',
    expect.stringContaining('at most 50,000 records'),
  ]);
});

test('whoever follows a model hears of its records within moments, whoever changes them, and of no other model’s', async () => {
  const ann = await server.browser();
  const ended = new AbortController();
  const stream = await fetch(`${server.address}/api/events?models=${id}`, { signal: ended.signal });
  const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
  const [foreign, mine] = [change(), change()];
  await send(ann, [foreign], other);
  await send(ann, [mine]);
  let heard = '';
  while (!heard.includes(mine.id)) {
    const { value, done } = await reader.read();
    if (done) throw new Error(`The stream ended: ${heard}`);
    heard += value;
  }
  ended.abort();
  expect(heard).toContain('event: version');
  expect(heard).toContain(
    JSON.stringify({ model: id, record: mine.id, kind: 'kept-weight', rev: 1 }).slice(1, 40),
  );
  expect(heard).not.toContain(foreign.id);
});
