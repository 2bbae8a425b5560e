import { execFile } from 'node:child_process';
import path from 'node:path';
import { promisify } from 'node:util';
import type { Likeness, ModelDetail, ModelListItem, RevisionView } from '@bathyscope/contracts';
import {
  copyOf,
  freshDatabase,
  ORPHANS,
  publicFile,
  TestServer,
  type Uploaded,
} from '../testing/test-server.ts';
import { Garbage } from '../worker/garbage.ts';

const root = path.join(path.dirname(__filename), '../../../..');
let server: TestServer;
let id: string;
const cube = publicFile('cube-mm.step');
const larger = publicFile('cube-in.step');

beforeAll(async () => {
  await freshDatabase('revisions_test');
  server = await TestServer.start();
  id = await server.open('Cube.stp', cube);
});
afterAll(() => server.close());

async function revise(name: string, bytes: Buffer, model = id, cookie = ''): Promise<Uploaded> {
  const form = new FormData();
  form.append('file', new Blob([new Uint8Array(bytes)]), name);
  const answer = await fetch(`${server.address}/api/models/${model}/revisions`, {
    method: 'POST',
    body: form,
    headers: { Cookie: cookie },
  });
  return { status: answer.status, body: (await answer.json()) as Uploaded['body'] };
}
const list = () => server.get<RevisionView[]>(`/models/${id}/revisions`);
const shown = async () => (await server.get<ModelDetail>(`/models/${id}`)).revision;
const lengthUnit = async (revision: number) =>
  (await server.get<ModelDetail>(`/models/${id}/revisions/${revision}`)).lengthUnit;

test('a revision is converted while the present one is shown; then it is the newest, and the older one keeps its address', async () => {
  const ann = await server.cookie();
  const { status, body } = await revise('Cube in inches.stp', larger, id, ann);
  expect([status, body.duplicate]).toEqual([201, false]);
  expect((await server.get<ModelListItem>(`/models/${id}`)).state).toBe('ready');
  expect((await server.until(body.job!.id, ['done', 'failed'])).state).toBe('done');
  expect(await list()).toMatchObject([
    {
      revision: 2,
      fileName: 'Cube in inches.stp',
      state: 'ready',
      fileSize: larger.length,
      author: { name: '', you: false },
    },
    { revision: 1, fileName: 'Cube.stp', state: 'ready', author: null },
  ]);
  expect(await server.get<ModelDetail>(`/models/${id}`)).toMatchObject({
    revision: 2,
    newest: 2,
    lengthUnit: 'in',
  });
  expect(await server.get<ModelDetail>(`/models/${id}/revisions/1`)).toMatchObject({
    revision: 1,
    newest: 2,
    lengthUnit: 'mm',
  });
  expect((await server.send('GET', `/models/${id}/revisions/7`)).status).toBe(404);
  expect((await server.send('GET', `/models/${id}/revisions/one`)).status).toBe(400);
  // Its file comes back as it was sent.
  const source = await fetch(`${server.address}/api/models/${id}/revisions/2/source`);
  expect(Buffer.from(await source.arrayBuffer()).equals(larger)).toBe(true);
  expect(source.headers.get('content-disposition')).toBe('attachment; filename="Cube in inches.stp"');
  expect((await server.send('GET', `/models/${id}/revisions/7/source`)).status).toBe(404);
  const inspected = promisify(execFile)(path.join(root, 'bin/inspect'), [
    `${server.address}/models/${id}/revisions/1`,
    '--json',
  ]);
  expect(JSON.parse((await inspected).stdout)).toMatchObject({
    lengthUnit: 'mm',
    counts: { parts: 1, faces: 6 },
  });
  const none = promisify(execFile)(path.join(root, 'bin/inspect'), [
    `${server.address}/models/${id}/revisions/7`,
  ]);
  await expect(none).rejects.toMatchObject({ code: 1, stderr: expect.stringContaining('cannot be opened') });
  // The unit speaks against it, the part for it.
  const like = await server.get<Likeness>(`/models/${id}/revisions/2/likeness`);
  expect(like).toMatchObject({
    to: 1,
    parts: 1,
    before: 1,
    common: expect.any(Number),
    lengthUnit: 'in',
    unitBefore: 'mm',
  });
  expect(await server.get<Likeness>(`/models/${id}/revisions/2/likeness?to=${id}`)).toMatchObject({
    to: 2,
    sameRoot: true,
    common: 1,
    unitBefore: 'in',
  });
  expect((await server.send('GET', `/models/${id}/revisions/1/likeness`)).status).toBe(404);
  // What is kept says which revision it was made on.
  const record = {
    kind: 'kept-weight',
    version: 1,
    document: { name: 'W', mass: 1, centreOfGravity: [0, 0, 0], revision: 1 },
  };
  const change = {
    id: '6f1d3f0e-52a5-4b5f-9d5c-aaaaaaaaaaaa',
    ...record,
    position: 1,
    deleted: false,
    match: null,
  };
  await server.send('PATCH', `/models/${id}/records`, { changes: [change], revision: 1 });
  expect((await server.get<{ madeOn: number }[]>(`/models/${id}/records`)).map((r) => r.madeOn)).toEqual([1]);
});

test('the bytes of an older revision are said to be that, and nothing is added; nor is a file that cannot be read', async () => {
  const same = await revise('Again.stp', cube);
  expect([same.status, same.body.detail]).toEqual([
    409,
    expect.stringContaining('byte for byte, revision 1 of this model'),
  ]);
  expect((await revise('None.stp', Buffer.from('no model'))).status).toBe(422);
  const damaged = Buffer.from(
    cube.toString('latin1').replace(/DATA;[\s\S]*ENDSEC;/, 'DATA;\nENDSEC;'),
    'latin1',
  );
  const { body } = await revise('Damaged.stp', damaged);
  expect((await server.until(body.job!.id, ['done', 'failed'])).state).toBe('failed');
  expect((await list()).map((r) => r.revision)).toEqual([2, 1]);
  expect(await shown()).toBe(2);
  expect(
    (await revise('Nowhere.stp', copyOf(cube, 'nowhere'), '00000000-0000-4000-8000-00000000dead')).status,
  ).toBe(404);
  await server.worker.get(Garbage).collect(0);
  expect((await server.sql<{ n: number }>(ORPHANS)).filter((o) => o.n > 0)).toEqual([]);
});

test('several who add one at once: each has a number of its own, and the newest is shown whichever is ready first', async () => {
  const added = await Promise.all(
    [1, 2, 3].map((n) => revise(`At once ${n}.stp`, copyOf(cube, `at once ${n}`))),
  );
  for (const { body } of added)
    expect((await server.until(body.job!.id, ['done', 'failed'])).state).toBe('done');
  expect((await list()).map((r) => r.revision)).toEqual([5, 4, 3, 2, 1]);
  expect(await shown()).toBe(5);
});

test('one is removed with undo; who has it open goes on; the last one stays', async () => {
  expect((await server.send('DELETE', `/models/${id}/revisions/5`)).status).toBe(204);
  expect([await shown(), (await list()).map((r) => r.revision)]).toEqual([4, [4, 3, 2, 1]]);
  expect(await lengthUnit(5)).toBe('mm');
  expect((await server.send('POST', `/models/${id}/revisions/5/restore`)).status).toBe(204);
  expect(await shown()).toBe(5);
  for (const n of [5, 4, 3, 2])
    expect((await server.send('DELETE', `/models/${id}/revisions/${n}`)).status).toBe(204);
  const last = await server.send('DELETE', `/models/${id}/revisions/1`);
  expect([last.status, ((await last.json()) as { detail: string }).detail]).toEqual([
    409,
    expect.stringContaining('only revision'),
  ]);
  expect(await shown()).toBe(1);
  expect((await server.send('DELETE', `/models/${id}/revisions/9`)).status).toBe(404);
  // What was removed is not in the way of the same bytes as a model of their own.
  expect((await server.upload('Own.stp', larger)).body.duplicate).toBe(false);
});

test('a line about a revision', async () => {
  expect(
    (await server.send('PATCH', `/models/${id}/revisions/1`, { note: ' As sent to the shop ' })).status,
  ).toBe(204);
  expect((await list())[0].note).toBe('As sent to the shop');
  expect((await server.send('PATCH', `/models/${id}/revisions/1`, { note: 'x'.repeat(501) })).status).toBe(
    400,
  );
  expect((await server.send('PATCH', `/models/${id}/revisions/44`, { note: 'x' })).status).toBe(404);
});

test('a model of a file that was meant as a revision becomes one, also while it is converted; one of which something is kept stays', async () => {
  // Numbers of removed ones are not given again.
  const next = 6;
  const sent = await server.upload('Meant.stp', copyOf(cube, 'meant'));
  const adopt = (model: string, into = id) =>
    server.send('POST', `/models/${into}/revisions/adopt`, { model });
  const other = sent.body.model.id;
  expect(await (await adopt(other)).json()).toEqual({ revision: next });
  expect((await server.until(sent.body.job!.id, ['done', 'failed'])).modelId).toBe(id);
  expect([(await list())[0], await shown()]).toEqual([
    expect.objectContaining({ fileName: 'Meant.stp', state: 'ready' }),
    next,
  ]);
  expect((await server.send('GET', `/models/${other}`)).status).toBe(404);

  const kept = await server.open('Kept.stp', copyOf(cube, 'kept'));
  const record = {
    kind: 'kept-weight',
    version: 1,
    document: { name: 'W', mass: 1, centreOfGravity: [0, 0, 0], revision: 1 },
  };
  await server.send('PUT', `/models/${kept}/records/6f1d3f0e-52a5-4b5f-9d5c-bbbbbbbbbbbb`, record);
  const refused = await adopt(kept);
  expect([refused.status, ((await refused.json()) as { detail: string }).detail]).toEqual([
    409,
    expect.stringContaining('is kept of that model'),
  ]);
  for (const [model, into] of [
    [id, id],
    [other, id],
    [kept, other],
  ])
    expect((await adopt(model, into)).status).toBe(404);
  expect((await adopt('x')).status).toBe(400);
});
