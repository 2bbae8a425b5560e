import { VIEW_STATE_VERSION } from '@bathyscope/core';
import { freshDatabase, publicFile, TestServer } from '../testing/test-server.ts';

let server: TestServer;
let id: string;

beforeAll(async () => {
  await freshDatabase('views_test');
  server = await TestServer.start();
  id = await server.open('Cube.stp', publicFile('cube-mm.step'));
});
afterAll(() => server.close());

test('saved views: one view a slot, order, soft delete; a link keeps what it was made of', async () => {
  const { send } = server;
  const camera = { projection: 'perspective', target: [1, 2, 3], orientation: [0, 0, 0, 1], height: 50, lens: 0.5 };
  const document = { version: VIEW_STATE_VERSION, camera };
  const make = async (name: string, slot?: number) =>
    (await (await send('POST', `/models/${id}/saved-views`, { name, document, ...(slot && { slot }) })).json()) as {
      id: string;
      document: unknown;
      slot: number | null;
    };
  const first = await make('First', 3);
  expect(first.document).toEqual(document);
  const second = await make('Second', 3);
  const list = () => server.get<{ id: string; name: string; slot: number | null }[]>(`/models/${id}/saved-views`);
  expect(await list()).toMatchObject([
    { name: 'First', slot: null },
    { name: 'Second', slot: 3 },
  ]);

  expect((await send('PUT', `/models/${id}/saved-views/order`, { ids: [second.id, first.id] })).status).toBe(204);
  expect((await list()).map((v) => v.name)).toEqual(['Second', 'First']);
  expect((await send('DELETE', `/models/${id}/saved-views/${second.id}`)).status).toBe(204);
  expect(await (await send('PATCH', `/models/${id}/saved-views/${first.id}`, { slot: 3, name: 'Renamed' })).json()).toMatchObject({
    slot: 3,
    name: 'Renamed',
  });
  // What comes back does not take the slot away again.
  expect((await send('POST', `/models/${id}/saved-views/${second.id}/restore`)).status).toBe(204);
  expect(await list()).toMatchObject([
    { name: 'Second', slot: null },
    { name: 'Renamed', slot: 3 },
  ]);

  expect(
    (await send('POST', `/models/${id}/saved-views`, { name: 'Bad', document: { version: 2, camera: { ...camera, height: 'tall' } } }))
      .status,
  ).toBe(422);
  expect((await send('PATCH', `/models/${id}/saved-views/${first.id}`, { slot: 12 })).status).toBe(400);
  expect((await send('PATCH', `/models/${id}/saved-views/00000000-0000-4000-8000-00000000dead`, { name: 'x' })).status).toBe(404);
  expect((await send('PUT', `/models/${id}/saved-views/${first.id}/thumbnail`)).status).toBe(415);

  const { id: link } = (await (await send('POST', `/models/${id}/links`, { document })).json()) as { id: string };
  expect(await server.get(`/models/${id}/links/${link}`)).toEqual({ document, revision: 1 });
  expect(await list()).toMatchObject([{ revision: 1 }, { revision: 1 }]);
});

test('each browser is a profile: settings and last states are its own, saved views, names and sets are the model’s', async () => {
  const [ann, ben] = [await server.browser(), await server.browser()];
  const address = `/models/${id}/view-state`;
  const state = (height: number) => ({ document: { version: VIEW_STATE_VERSION, camera: { ...CAMERA, height } } });
  await ann('PUT', '/settings', { values: { theme: 'abyss' } });
  await ann('PUT', address, state(10));
  await ben('PUT', address, state(20));
  expect([await body(ann('GET', '/settings')), await body(ben('GET', '/settings'))]).toEqual([
    { values: { theme: 'abyss' } },
    { values: null },
  ]);
  expect([await body(ann('GET', address)), await body(ben('GET', address))]).toMatchObject([state(10), state(20)]);
  const before = ((await body(ben('GET', `/models/${id}/saved-views`))) as unknown[]).length;
  await ann('POST', `/models/${id}/saved-views`, { name: 'Ann’s', ...state(5) });
  expect(await body(ben('GET', `/models/${id}/saved-views`))).toHaveLength(before + 1);
  expect((await ann('PUT', '/settings', { values: 'none' })).status).toBe(400);

  await ann('PUT', '/profile', { name: ' Ann ' });
  expect([await body(ann('GET', '/profile')), await body(ben('GET', '/profile'))]).toEqual([{ name: 'Ann' }, { name: '' }]);
  for (const name of ['x'.repeat(81), 'two\nlines', 7]) expect((await ann('PUT', '/profile', { name })).status).toBe(400);
  // Who shows no cookie reads nothing of anybody’s and leaves no profile behind; a made-up one opens nothing.
  const profiles = async () => (await server.sql<{ n: number }>('select count(*)::int as n from owner'))[0].n;
  const n = await profiles();
  expect(await server.get('/settings')).toEqual({ values: null });
  expect(await server.get(address)).toEqual({ document: null, revision: 1 });
  expect(await profiles()).toBe(n);
  const forged = await fetch(`${server.address}/api/settings`, { headers: { Cookie: 'bathyscope_profile=00000000' } });
  expect(await forged.json()).toEqual({ values: null });
});

test('the cookie is the browser’s own: no script reads it, no other site sends it, and the database does not hold it', async () => {
  const response = await fetch(`${server.address}/api/profile`);
  const cookie = response.headers.get('set-cookie')!;
  expect(cookie).toMatch(/HttpOnly/);
  expect(cookie).toMatch(/SameSite=Strict/);
  const token = /bathyscope_profile=([^;]+)/.exec(cookie)![1];
  const rows = await server.sql<{ text: string }>('select owner::text as text from owner');
  expect(rows.some((r) => r.text.includes(token))).toBe(false);
});

test('what is kept of a model is changed by version: whoever has an old one is told so, and overwrites nothing', async () => {
  const [ann, ben] = [await server.browser(), await server.browser()];
  const address = `/models/${id}/preferences`;
  expect(await body(ann('GET', address))).toEqual({ values: null, version: 0 });
  expect(await body(ann('PUT', address, { values: { upAxis: 'y' }, version: 0 }))).toEqual({ version: 1 });
  const late = await ben('PUT', address, { values: { upAxis: 'z' }, version: 0 });
  expect([late.status, ((await late.json()) as { detail: string }).detail]).toEqual([
    409,
    expect.stringContaining('changed by someone else'),
  ]);
  expect(await body(ben('GET', address))).toEqual({ values: { upAxis: 'y' }, version: 1 });
  // Of many at once one gets through.
  const all = await Promise.all([1, 2, 3, 4, 5].map((n) => ben('PUT', address, { values: { n }, version: 1 })));
  expect(all.map((r) => r.status).sort()).toEqual([200, 409, 409, 409, 409]);
  expect((await ann('PUT', address, { values: {} })).status).toBe(400);
});

test('what a single user had before there were profiles goes to the first browser that comes, and to no other', async () => {
  await server.sql("insert into owner (id, name) values ('00000000-0000-4000-8000-0000000000aa', '')");
  await server.sql(`insert into user_setting (owner_id, document) values ('00000000-0000-4000-8000-0000000000aa', '{"theme": "abyss"}')`);
  const both = await Promise.all([server.browser(), server.browser()]);
  const settings = await Promise.all(both.map((b) => body(b('GET', '/settings'))));
  expect(settings).toEqual(expect.arrayContaining([{ values: { theme: 'abyss' } }, { values: null }]));
});

const CAMERA = { projection: 'perspective', target: [1, 2, 3], orientation: [0, 0, 0, 1], height: 50, lens: 0.5 };

const body = async (answer: Promise<Response>): Promise<unknown> => (await answer).json();
