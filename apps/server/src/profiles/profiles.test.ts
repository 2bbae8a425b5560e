import { VIEW_STATE_VERSION } from '@bathyscope/core';
import { freshDatabase, publicFile, TestServer } from '../testing/test-server.ts';

let server: TestServer;
let id: string;

beforeAll(async () => {
  await freshDatabase('profiles_test');
  server = await TestServer.start();
  id = await server.open('Cube.stp', publicFile('cube-mm.step'));
});
afterAll(() => server.close());

const CAMERA = { projection: 'perspective', target: [1, 2, 3], orientation: [0, 0, 0, 1], height: 50, lens: 0.5 };
const body = async (answer: Promise<Response>): Promise<unknown> => (await answer).json();

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

test('what a single user had before there were profiles goes to the first browser that comes, and to no other', async () => {
  await server.sql("insert into owner (id, name) values ('00000000-0000-4000-8000-0000000000aa', '')");
  await server.sql(`insert into user_setting (owner_id, document) values ('00000000-0000-4000-8000-0000000000aa', '{"theme": "abyss"}')`);
  const both = await Promise.all([server.browser(), server.browser()]);
  const settings = await Promise.all(both.map((b) => body(b('GET', '/settings'))));
  expect(settings).toEqual(expect.arrayContaining([{ values: { theme: 'abyss' } }, { values: null }]));
});
