import { randomUUID } from 'node:crypto';
import { PAGE_HEADER } from '@bathyscope/contracts';
import { VIEW_STATE_VERSION } from '@bathyscope/core/view-state';
import { freshDatabase, publicFile, TestServer } from '../testing/test-server.ts';

let server: TestServer;
let id: string;

beforeAll(async () => {
  await freshDatabase('profiles_test');
  server = await TestServer.start();
  id = await server.open('Cube.stp', publicFile('cube-mm.step'));
});
afterAll(() => server.close());

const CAMERA = {
  projection: 'perspective',
  target: [1, 2, 3],
  orientation: [0, 0, 0, 1],
  height: 50,
  lens: 0.5,
};
const savedView = (name: string, height: number) => ({
  kind: 'saved-view',
  version: 1,
  document: {
    name,
    slot: null,
    revision: 1,
    state: { version: VIEW_STATE_VERSION, camera: { ...CAMERA, height } },
  },
});
const body = async (answer: Promise<Response>): Promise<unknown> => (await answer).json();

test('each browser is a profile: settings and last states are its own, saved views, names and sets are the model’s', async () => {
  const [ann, ben] = [await server.browser(), await server.browser()];
  const address = `/models/${id}/view-state`;
  const state = (height: number) => ({
    document: { version: VIEW_STATE_VERSION, camera: { ...CAMERA, height } },
  });
  await ann('PATCH', '/settings', { values: { theme: 'abyss' } });
  await ann('PUT', address, state(10));
  await ben('PUT', address, state(20));
  expect([await body(ann('GET', '/settings')), await body(ben('GET', '/settings'))]).toEqual([
    { values: { theme: 'abyss' } },
    { values: null },
  ]);
  expect([await body(ann('GET', address)), await body(ben('GET', address))]).toMatchObject([
    state(10),
    state(20),
  ]);
  const before = ((await body(ben('GET', `/models/${id}/records`))) as unknown[]).length;
  await ann('PUT', `/models/${id}/records/${randomUUID()}`, savedView('Ann’s', 5));
  expect(await body(ben('GET', `/models/${id}/records`))).toHaveLength(before + 1);
  expect((await ann('PATCH', '/settings', { values: 'none' })).status).toBe(400);

  await ann('PUT', '/profile', { name: ' Ann ' });
  expect([await body(ann('GET', '/profile')), await body(ben('GET', '/profile'))]).toMatchObject([
    { name: 'Ann' },
    { name: '' },
  ]);
  for (const name of ['x'.repeat(81), 'two\nlines', 7])
    expect((await ann('PUT', '/profile', { name })).status).toBe(400);
  // Who shows no cookie reads nothing of anybody’s and leaves no profile behind; a made-up one opens nothing.
  const profiles = async () => (await server.sql<{ n: number }>('select count(*)::int as n from owner'))[0].n;
  const n = await profiles();
  expect(await server.get('/settings')).toEqual({ values: null });
  expect(await server.get(address)).toEqual({ document: null, revision: 1 });
  expect(await profiles()).toBe(n);
  const forged = await fetch(`${server.address}/api/settings`, {
    headers: { Cookie: `${await cookieName()}=00000000` },
  });
  expect(await forged.json()).toEqual({ values: null });
});

const cookieName = async (): Promise<string> =>
  `bathyscope_profile_${(await server.sql<{ value: string }>(`select value from setting where key = 'installation'`))[0].value}`;
/** What a page asks with these cookies, and which it has then. */
async function ask(url: string, cookies: Record<string, string>, init: RequestInit = {}) {
  const Cookie = Object.entries(cookies)
    .map(([name, value]) => `${name}=${value}`)
    .join('; ');
  const response = await fetch(`${server.address}/api${url}`, {
    ...init,
    headers: { Cookie, [PAGE_HEADER]: '1', 'Content-Type': 'application/json' },
  });
  const sent = response.headers.getSetCookie().map((c) => c.split(';')[0].split('=') as [string, string]);
  return {
    status: response.status,
    body: response.status === 204 ? null : ((await response.json()) as unknown),
    cookies: { ...cookies, ...Object.fromEntries(sent) },
  };
}
const settingsOf = async (cookies: Record<string, string>) => (await ask('/settings', cookies)).body;
const setTheme = (cookies: Record<string, string>, theme: string) =>
  ask('/settings', cookies, { method: 'PATCH', body: JSON.stringify({ values: { theme } }) });

test('two installations on one host leave each other’s cookies alone; one from before has its profile still', async () => {
  const name = await cookieName();
  const others = { bathyscope_profile_12345678: 'theirs', bathyscope_profile: 'another’s' };
  const { cookies } = await setTheme({ bathyscope_profile_12345678: 'theirs' }, 'abyss');
  expect(Object.keys(cookies).sort()).toEqual(['bathyscope_profile_12345678', name].sort());
  expect(cookies['bathyscope_profile_12345678']).toBe(others.bathyscope_profile_12345678);
  // As browsers kept it when all installations had one name for it.
  const before = { bathyscope_profile: cookies[name] };
  expect(await settingsOf(before)).toEqual({ values: { theme: 'abyss' } });
  const after = await ask('/profile', before);
  expect(after.cookies).toEqual({ ...before, [name]: cookies[name] });
});

test('a request that no page of ours made neither makes a profile nor replaces one', async () => {
  const count = async () => (await server.sql<{ n: number }>('select count(*)::int as n from owner'))[0].n;
  const n = await count();
  // As a link on another site leads here: no strict cookie comes along.
  for (const [method, url, body] of [
    ['GET', '/profile'],
    ['PATCH', '/settings', { values: {} }],
    ['PUT', '/profile', { name: 'x' }],
  ] as const) {
    // prettier-ignore
    const response = await server.send(method, url, body);
    expect([response.status, response.headers.getSetCookie()]).toEqual([403, []]);
    expect(await response.json()).toMatchObject({ detail: expect.stringContaining('Open Bathyscope') });
  }
  // What a program makes of a model is the installation's.
  for (let i = 0; i < 3; i++)
    expect(
      (await server.send('PUT', `/models/${id}/records/${randomUUID()}`, savedView(`By program ${i}`, 7)))
        .status,
    ).toBe(200);
  expect(await count()).toBe(n);
});

test('a profile that is not known is kept beside the new one, and taken up again when it is there', async () => {
  const name = await cookieName();
  const first = (await setTheme({}, 'abyss')).cookies;
  // The database was put back to a day before.
  await server.sql(
    'update owner set token_hash = decode(md5(id::text), $1) where token_hash = sha256($2::bytea)',
    ['hex', first[name]],
  );
  const second = (await setTheme(first, 'chart')).cookies;
  expect(second[name]).not.toBe(first[name]);
  expect(second[`${name}_earlier`]).toBe(first[name]);
  expect((await ask('/profile', second)).body).toEqual({ name: '', earlier: false });
  expect((await ask('/profile/earlier', second, { method: 'POST' })).status).toBe(404);
  // And is there again as it was.
  await server.sql(
    'update owner set token_hash = sha256($1::bytea) where token_hash = decode(md5(id::text), $2)',
    [first[name], 'hex'],
  );
  expect((await ask('/profile', second)).body).toEqual({ name: '', earlier: true });
  const third = await ask('/profile/earlier', second, { method: 'POST' });
  expect(third.status).toBe(204);
  expect(await settingsOf(third.cookies)).toEqual({ values: { theme: 'abyss' } });
  expect(third.cookies).toEqual({ [name]: first[name], [`${name}_earlier`]: second[name] });
});

test('the cookie is the browser’s own: no script reads it, no other site sends it, and the database does not hold it', async () => {
  const response = await fetch(`${server.address}/api/profile`, { headers: { [PAGE_HEADER]: '1' } });
  const cookie = response.headers.get('set-cookie')!;
  expect(cookie).toMatch(/HttpOnly/);
  expect(cookie).toMatch(/SameSite=Strict/);
  const token = /bathyscope_profile_\w{8}=([^;]+)/.exec(cookie)![1];
  const rows = await server.sql<{ text: string }>('select owner::text as text from owner');
  expect(rows.some((r) => r.text.includes(token))).toBe(false);
});

test('what a single user had before there were profiles goes to the first browser that comes, and to no other', async () => {
  await server.sql("insert into owner (id, name) values ('00000000-0000-4000-8000-0000000000aa', '')");
  await server.sql(
    `insert into user_setting (owner_id, document) values ('00000000-0000-4000-8000-0000000000aa', '{"theme": "abyss"}')`,
  );
  const both = await Promise.all([server.browser(), server.browser()]);
  const settings = await Promise.all(both.map((b) => body(b('GET', '/settings'))));
  expect(settings).toEqual(expect.arrayContaining([{ values: { theme: 'abyss' } }, { values: null }]));
});
