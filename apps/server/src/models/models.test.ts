import http from 'node:http';
import { VIEW_STATE_VERSION } from '@bathyscope/core/view-state';
import { decodeGeometry } from '@bathyscope/contracts';
import type { ModelDetail, ModelListItem } from '@bathyscope/contracts';
import { copyOf, freshDatabase, publicFile, TestServer } from '../testing/test-server.ts';

const assembly = publicFile('as1-oc-214.stp');
let server: TestServer;
let id: string;

beforeAll(async () => {
  await freshDatabase('models_test');
  server = await TestServer.start();
  id = await server.open('Rod set.stp', assembly);
});
afterAll(() => server.close());

/** A response as it is on the wire: fetch unpacks and drops headers. */
const wire = (path: string, headers: Record<string, string>, method = 'GET') =>
  new Promise<{ status: number; encoding?: string; etag?: string; length: number }>((resolve) => {
    http
      .request(`${server.address}/api${path}`, { method, headers }, (r) => {
        let length = 0;
        r.on('data', (d: Buffer) => (length += d.length)).on('end', () =>
          resolve({
            status: r.statusCode!,
            encoding: r.headers['content-encoding'],
            etag: r.headers.etag,
            length,
          }),
        );
      })
      .end();
  });

test('a file becomes a model with geometry, sent compressed and cached for good', async () => {
  const model = await server.get<ModelDetail>(`/models/${id}`);
  expect(model).toMatchObject({
    name: 'Rod set',
    lengthUnit: 'mm',
    revision: 1,
    state: 'ready',
    summary: { counts: { components: 18, parts: 5 } },
  });
  const nut = model.structure.parts.find((p) => p.name === 'nut')!;
  const response = await fetch(`${server.address}/api/geometries/${nut.geometry}`);
  expect(response.headers.get('cache-control')).toContain('immutable');
  expect(decodeGeometry(new Uint8Array(await response.arrayBuffer())).holes[0].diameter).toBeCloseTo(10, 6);
});

test.each(['geometry', 'model'])(
  'a %s is packed for clients that unpack brotli, plain for others, and not sent again when it is known',
  async (what) => {
    const { structure } = await server.get<ModelDetail>(`/models/${id}`);
    const path = what === 'model' ? `/models/${id}` : `/geometries/${structure.parts[0].geometry}`;
    const [packed, plain] = [await wire(path, { 'Accept-Encoding': 'gzip, br' }), await wire(path, {})];
    expect(packed).toMatchObject({ status: 200, encoding: 'br' });
    expect(plain.encoding).toBeUndefined();
    expect(packed.length).toBeLessThan(plain.length / 2);
    expect(await wire(path, { 'Accept-Encoding': 'br', 'If-None-Match': packed.etag! })).toMatchObject({
      status: 304,
      length: 0,
    });
    expect(await wire(path, {}, 'HEAD')).toMatchObject({ status: 200, length: 0 });
  },
);

test('what is not there is not there for those who say they know it, either', async () => {
  const hash = '0123456789'.repeat(4);
  expect(await wire(`/geometries/${hash}`, { 'If-None-Match': `"${hash}"` })).toMatchObject({ status: 404 });
  expect(await wire('/geometries/..%2f..%2fetc', {})).toMatchObject({ status: 404 });
  expect(await wire('/geometries/%00', {})).toMatchObject({ status: 404 });
});

test('a renamed model is sent with its new name at once', async () => {
  await server.get(`/models/${id}`);
  await server.send('PATCH', `/models/${id}`, { name: ' Rods ' });
  expect(await server.get(`/models/${id}`)).toMatchObject({ name: 'Rods' });
  await server.send('PATCH', `/models/${id}`, { name: 'Rod set' });
});

test('the same bytes give the model that is there; the same parts in other bytes are stored once', async () => {
  expect((await server.upload('Other name.stp', assembly)).body).toMatchObject({
    duplicate: true,
    job: null,
    model: { id },
  });
  const count = async () => (await server.sql<{ n: number }>('select count(*)::int as n from geometry'))[0].n;
  const before = await count();
  await server.open('Copy.stp', copyOf(assembly, 1));
  expect(await count()).toBe(before);
});

test('the shelf comes in pages, newest first, each model once', async () => {
  await server.sql(
    `with m as (insert into model (owner_id, name, created_at) select owner_id, 'Page ' || n, now() - interval '1 day' from model, generate_series(1, 25) n where id = $1 returning id, owner_id)
    insert into revision (owner_id, model_id, revision, file_name, file_hash, state) select owner_id, id, 1, 'page.stp', (select hash from source_file limit 1), 'ready' from m`,
    [id],
  );
  const seen: string[] = [];
  let next: string | undefined = '/api/models?limit=10';
  for (; next;) {
    const response: Response = await fetch(server.address + next);
    expect(response.headers.get('x-total-count')).toBe('27');
    const page = (await response.json()) as ModelListItem[];
    seen.push(...page.map((m) => m.id));
    next = /<([^>]+)>; rel="next"/.exec(response.headers.get('link') ?? '')?.[1];
  }
  expect(seen).toHaveLength(27);
  expect(new Set(seen).size).toBe(27);
  expect(seen).toContain(id);
  for (const query of ['limit=0', 'limit=many', 'limit=9999', 'after=x'])
    expect((await server.send('GET', `/models?${query}`)).status).toBe(400);
});

test('the shelf is found by words of names, files and tags, and ordered by name or size, page by page', async () => {
  const pages = async (query: string) => {
    const seen: ModelListItem[] = [];
    let next: string | undefined = `/api/models?limit=7&${query}`;
    let total = 0;
    for (; next;) {
      const response: Response = await fetch(server.address + next);
      total = Number(response.headers.get('x-total-count'));
      seen.push(...((await response.json()) as ModelListItem[]));
      next = /<([^>]+)>; rel="next"/.exec(response.headers.get('link') ?? '')?.[1];
    }
    expect(seen).toHaveLength(total);
    expect(new Set(seen.map((m) => m.id)).size).toBe(total);
    return seen;
  };
  const names = (await pages('sort=name')).map((m) => m.name.toLowerCase());
  expect(names).toEqual([...names].sort((a, b) => (a < b ? -1 : 1)));
  const sizes = (await pages('sort=size')).map((m) => m.fileSize);
  expect(sizes).toEqual([...sizes].sort((a, b) => b - a));
  expect((await pages('search=page%201')).every((m) => m.name.includes('1'))).toBe(true);
  const changed = await server.send('PATCH', `/models/${id}`, { tags: [' winch ', 'winch', '', 'Deep %'] });
  expect(await changed.json()).toMatchObject({ name: 'Rod set', tags: ['winch', 'Deep %'] });
  for (const search of ['WINCH', 'rod%20deep', '%25'])
    expect((await pages(`search=${search}`)).map((m) => m.id)).toEqual([id]);
  expect(await pages('search=no_such')).toEqual([]);
  expect(await (await server.send('GET', '/models/tags')).json()).toEqual([
    { tag: 'Deep %', count: 1 },
    { tag: 'winch', count: 1 },
  ]);
  expect((await pages('tag=Deep%20%25&search=rod')).map((m) => m.id)).toEqual([id]);
  for (const query of ['tag=deep', 'tag=winch&search=page']) expect(await pages(query)).toEqual([]);
  for (const query of ['sort=colour', `search=${'x'.repeat(201)}`])
    expect((await server.send('GET', `/models?${query}`)).status).toBe(400);
  for (const tags of ['winch', ['x'.repeat(41)], Array.from({ length: 13 }, (_, i) => String(i))])
    expect((await server.send('PATCH', `/models/${id}`, { tags })).status).toBe(400);
});

test('deleting is soft; restoring brings all back', async () => {
  expect((await server.send('DELETE', `/models/${id}`)).status).toBe(204);
  for (const url of [`/models/${id}`, `/models/${id}/view-state`, `/models/${id}/records`])
    expect((await server.send('GET', url)).status).toBe(404);
  expect((await server.send('POST', `/models/${id}/restore`)).status).toBe(204);
  expect(await server.get(`/models/${id}`)).toMatchObject({ name: 'Rod set', state: 'ready' });
});

test('a view state is kept as a checked document; rubbish is refused with a sentence', async () => {
  const browser = await server.browser();
  const put = (document: unknown) => browser('PUT', `/models/${id}/view-state`, { document });
  const camera = { projection: 'orthographic', target: [1, 2, 3], orientation: [0, 0, 0, 1], height: 50 };
  expect(
    (await put({ version: 1, camera, visibility: { 'as1/plate': { visible: false } }, rubbish: 'x' })).status,
  ).toBe(204);
  const { document } = (await (await browser('GET', `/models/${id}/view-state`)).json()) as {
    document: Record<string, unknown>;
  };
  expect(document).toEqual({
    version: VIEW_STATE_VERSION,
    camera: { ...camera, lens: Math.PI / 6 },
    visibility: { './plate': { visible: false, ghosted: false, keptWhole: false } },
  });
  const refused = await put({ version: 1, camera: { ...camera, height: 'tall' } });
  expect(refused.status).toBe(422);
  expect(((await refused.json()) as { detail: string }).detail).toMatch(/camera of this view is incomplete/);
  expect((await put({ version: 99 })).status).toBe(422);
});
