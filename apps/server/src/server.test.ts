import type { NestExpressApplication } from '@nestjs/platform-express';
import { decodeGeometry, type ExactCut, type ModelDetail } from '@bathyscope/contracts';
import { combineSections, componentsOf, listOccurrences, propertiesOfCurves } from '@bathyscope/core';
import http from 'node:http';
import { pathToFileURL } from 'node:url';
import path from 'node:path';
import { KernelService } from './kernel/kernel.service.ts';
import { freshDatabase, publicFile, startApp, untilState, upload } from './testing/test-app.ts';

// The worker thread runs as built (bin/test builds first): Jest's transforms do not reach into threads.
jest.mock('./kernel/worker-url.ts', () => ({
  workerUrl: () => ({ url: pathToFileURL(path.join(path.dirname(__filename), '..', 'dist', 'kernel', 'kernel-worker.js')), execArgv: [] }),
}));

jest.setTimeout(240_000);

const assembly = publicFile('as1-oc-214.stp');
/** The same model under other bytes. */
const copyOf = (bytes: Buffer, n: number): Buffer => Buffer.from(bytes.toString('latin1').replace('END-ISO-10303-21;', `/* ${n} */\nEND-ISO-10303-21;`), 'latin1');

let app: NestExpressApplication;
let address: string;
beforeAll(async () => {
  await freshDatabase('server_test');
  ({ app, address } = await startApp());
});
afterAll(() => app.close());

const get = async <T>(url: string): Promise<T> => (await (await fetch(`${address}/api${url}`)).json()) as T;

test('a file becomes a model with geometry, sent compressed and cached for good', async () => {
  const { status, body } = await upload(address, 'Rod set.stp', assembly);
  expect(status).toBe(201);
  expect((await untilState(address, body.job!.id, ['done', 'failed'])).state).toBe('done');
  const model = await get<{ name: string; lengthUnit: string; structure: { parts: { name: string; geometry: string }[] }; summary: { counts: { components: number } } }>(`/models/${body.model.id}`);
  expect(model).toMatchObject({ name: 'Rod set', lengthUnit: 'mm', summary: { counts: { components: 18, parts: 5 } } });

  const nut = model.structure.parts.find((p) => p.name === 'nut')!;
  const response = await fetch(`${address}/api/geometries/${nut.geometry}`);
  expect(response.headers.get('cache-control')).toContain('immutable');
  const geometry = decodeGeometry(new Uint8Array(await response.arrayBuffer()));
  expect(geometry.holes[0].diameter).toBeCloseTo(10, 6);
  // fetch unpacks and drops the header, so the wire is asked directly.
  const encoding = await new Promise((resolve) => http.get(`${address}/api/geometries/${nut.geometry}`, { headers: { 'Accept-Encoding': 'gzip, br' } }, (r) => resolve(r.resume().headers['content-encoding'])));
  expect(encoding).toBe('br');
  const again = await fetch(`${address}/api/geometries/${nut.geometry}`, { headers: { 'If-None-Match': response.headers.get('etag')! } });
  expect(again.status).toBe(304);
});

test('the same bytes give the model that is there; the same parts in other bytes are stored once', async () => {
  const same = await upload(address, 'Other name.stp', assembly);
  expect(same.body).toMatchObject({ duplicate: true, job: null });
  const count = async () => Number((await app.get('KNEX').raw('select count(*) from geometry')).rows[0].count);
  const before = await count();
  const { body } = await upload(address, 'Copy.stp', copyOf(assembly, 1));
  expect((await untilState(address, body.job!.id, ['done', 'failed'])).state).toBe('done');
  expect(await count()).toBe(before);
});

test('questions are answered while a conversion runs', async () => {
  const models = await get<{ id: string; name: string }[]>('/models');
  const { id } = models.find((m) => m.name === 'Rod set')!;
  const ask = async () => {
    const response = await fetch(`${address}/api/models/${id}/questions/distance`, {
      method: 'POST', headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ a: { component: 'as1/rod-assembly/nut', kind: 'part' }, b: { component: 'as1/rod-assembly/nut~2', kind: 'part' } }),
    });
    return ((await response.json()) as { distance: number }).distance;
  };
  // The first question starts its thread and loads the shapes; what is tested is that the next need not wait its turn.
  await ask();
  const order: string[] = [];
  const { body } = await upload(address, 'Busy.stp', copyOf(assembly, 2));
  await untilState(address, body.job!.id, ['running']);
  const converted = untilState(address, body.job!.id, ['done']).then(() => order.push('conversion'));
  // Reference value (native OCCT 7.6): 170 mm between the two nuts of the rod.
  expect(await ask()).toBeCloseTo(170, 6);
  order.push('question');
  await converted;
  expect(order).toEqual(['question', 'conversion']);
});

test('exact cuts: as native OCCT has them, of all components in their order; a plane or component that is none is refused in a sentence', async () => {
  const { id } = (await get<{ id: string; name: string }[]>('/models')).find((m) => m.name === 'Rod set')!;
  const cut = async (body: object) => {
    const response = await fetch(`${address}/api/models/${id}/questions/section`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) });
    return { status: response.status, body: (await response.json()) as ExactCut[] & { detail?: string } };
  };
  const nuts = ['as1/rod-assembly/nut', 'as1/rod-assembly/nut~2'];
  // The middle of the box across X: two solids, 3,078.5398 mm² in all (native OCCT 7.6; see the kernel's reference sections).
  const all = componentsOf(listOccurrences((await get<ModelDetail>(`/models/${id}`)).structure)).map((c) => c.path);
  const across = await cut({ normal: [1, 0, 0], constant: 83.999999994, components: all });
  expect(across.status).toBe(200);
  expect(across.body.map((c) => c.component)).toEqual(all);
  const areas = across.body.map((c) => ('loops' in c && c.open === 0 ? propertiesOfCurves(c.loops)?.area ?? 0 : NaN));
  expect(areas.filter((a) => a > 0)).toHaveLength(2);
  expect(areas.reduce((sum, a) => sum + a)).toBeCloseTo(3078.53982, 2);
  // In a model whose Y is up the same cut is told with Y upwards: (y, z) becomes (−z, y).
  const centre = (cuts: ExactCut[]) => combineSections(cuts.flatMap((c) => ('loops' in c ? propertiesOfCurves(c.loops) ?? [] : [])))!.centroid;
  const [y, z] = centre(across.body);
  expect(centre((await cut({ normal: [1, 0, 0], constant: 83.999999994, up: 'y', components: all })).body)).toEqual([expect.closeTo(-z, 6), expect.closeTo(y, 6)]);
  expect(await cut({ normal: [1, 0, 0], constant: 0, up: 'x', components: nuts })).toMatchObject({ status: 400, body: { detail: expect.stringContaining('y or z') } });
  // A plane that misses them finds nothing, which is an answer.
  expect((await cut({ normal: [0, 0, 1], constant: 5000, components: nuts })).body).toEqual(nuts.map((component) => ({ component, loops: [], open: 0, tolerance: 0 })));
  expect(await cut({ normal: [0, 0, 2], constant: 0, components: nuts })).toMatchObject({ status: 400, body: { detail: expect.stringContaining('length 1') } });
  expect(await cut({ normal: [0, 1], constant: 0, components: nuts })).toMatchObject({ status: 400 });
  expect(await cut({ normal: [0, 0, 1], constant: 0, components: Array.from({ length: 201 }, () => 'x') })).toMatchObject({ status: 400, body: { detail: expect.stringContaining('200') } });
  expect(await cut({ normal: [0, 0, 1], constant: 0, components: ['as1/no such thing'] })).toMatchObject({ status: 404 });
});

test('an exact cut that takes too long is given up with its reason, and the next question is answered', async () => {
  const { id } = (await get<{ id: string; name: string }[]>('/models')).find((m) => m.name === 'Rod set')!;
  const ask = async (question: string, body: object) => (await fetch(`${address}/api/models/${id}/questions/${question}`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) })).json();
  const [nut, other] = ['as1/rod-assembly/nut', 'as1/rod-assembly/nut~2'];
  const plane = { normal: [0, 1, 0], constant: 75, components: [nut] };
  const kernel = app.get(KernelService);
  const patient = kernel.section.bind(kernel);
  const hurried = jest.spyOn(kernel, 'section').mockImplementation((hash, frame, _limit, shapeOf) => patient(hash, frame, 0, shapeOf));
  expect(await ask('section', plane)).toEqual([{ component: nut, failed: 'the exact cut took too long' }]);
  hurried.mockRestore();
  expect(await ask('section', plane)).toEqual([expect.objectContaining({ component: nut, open: 0 })]);
  expect(await ask('distance', { a: { component: nut, kind: 'part' }, b: { component: other, kind: 'part' } })).toMatchObject({ distance: expect.closeTo(170, 6) });
});

test('a kernel that crashes takes neither the server nor the job with it; twice is enough', async () => {
  const kernel = app.get(KernelService);
  const crash = () => (kernel as unknown as { converter: { worker: { terminate(): Promise<number> } } }).converter.worker.terminate();
  const { body } = await upload(address, 'Fragile.stp', copyOf(assembly, 3));
  await untilState(address, body.job!.id, ['running']);
  await crash();
  expect((await untilState(address, body.job!.id, ['done', 'failed'])).state).toBe('done');

  const second = await upload(address, 'Hopeless.stp', copyOf(assembly, 4));
  for (let i = 0; i < 2; i++) {
    await untilState(address, second.body.job!.id, ['running']);
    await crash();
    await new Promise((r) => setTimeout(r, 300));
  }
  const failed = await untilState(address, second.body.job!.id, ['failed', 'done']);
  expect(failed).toMatchObject({ state: 'failed', problem: { detail: expect.stringContaining('given up after 2 attempts') } });
  expect((await fetch(`${address}/api/models/${second.body.model.id}`)).status).toBe(404);
});

test('a conversion interrupted by a restart is taken up again', async () => {
  const { body } = await upload(address, 'Interrupted.stp', copyOf(assembly, 5));
  await untilState(address, body.job!.id, ['running']);
  await app.close();
  ({ app, address } = await startApp());
  expect((await untilState(address, body.job!.id, ['done', 'failed'])).state).toBe('done');
  expect(await get(`/models/${body.model.id}`)).toMatchObject({ state: 'ready' });
});

test('progress is told by server-sent events', async () => {
  const stop = new AbortController();
  const events = await fetch(`${address}/api/jobs/events`, { signal: stop.signal });
  const seen: { id: string; state: string; progress: number }[] = [];
  const { body } = await upload(address, 'Watched.stp', copyOf(assembly, 6));
  const decoder = new TextDecoder();
  const reader = events.body!.getReader();
  while (!seen.some((e) => e.id === body.job!.id && e.state === 'done')) {
    const { value } = await reader.read();
    for (const line of decoder.decode(value).split('\n')) if (line.startsWith('data: {')) seen.push(JSON.parse(line.slice(6)));
  }
  stop.abort();
  const mine = seen.filter((e) => e.id === body.job!.id);
  expect(new Set(mine.map((e) => e.state))).toEqual(new Set(['queued', 'running', 'done']));
  expect(mine.some((e) => e.progress > 0 && e.progress < 1)).toBe(true);
});

test('a view state is kept as a checked document; rubbish is refused with a sentence', async () => {
  const [{ id }] = await get<{ id: string }[]>('/models');
  const put = (document: unknown) => fetch(`${address}/api/models/${id}/view-state`, { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ document }) });
  const camera = { projection: 'orthographic', target: [1, 2, 3], orientation: [0, 0, 0, 1], height: 50 };
  expect((await put({ version: 1, camera, visibility: { 'as1/plate': { visible: false } }, rubbish: 'x' })).status).toBe(204);
  const { document } = await get<{ document: Record<string, unknown> }>(`/models/${id}/view-state`);
  expect(document).toEqual({ version: 2, camera: { ...camera, lens: Math.PI / 6 }, visibility: { 'as1/plate': { visible: false, ghosted: false, keptWhole: false } } });
  const refused = await put({ version: 1, camera: { ...camera, height: 'tall' } });
  expect(refused.status).toBe(422);
  expect(((await refused.json()) as { detail: string }).detail).toMatch(/camera of this view is incomplete/);
  expect((await put({ version: 99 })).status).toBe(422);
});

const send = (method: string, url: string, body?: unknown) => fetch(`${address}/api${url}`, { method, ...(body !== undefined && { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }) });

test('saved views: one view a slot, order, soft delete; a link keeps what it was made of', async () => {
  const [{ id }] = await get<{ id: string }[]>('/models');
  const camera = { projection: 'perspective', target: [1, 2, 3], orientation: [0, 0, 0, 1], height: 50, lens: 0.5 };
  const document = { version: 2, camera };
  const make = async (name: string, slot?: number) => (await (await send('POST', `/models/${id}/saved-views`, { name, document, ...(slot && { slot }) })).json()) as { id: string; document: unknown; slot: number | null };
  const first = await make('First', 3);
  expect(first.document).toEqual(document);
  const second = await make('Second', 3);
  const list = () => get<{ id: string; name: string; slot: number | null }[]>(`/models/${id}/saved-views`);
  expect(await list()).toMatchObject([{ name: 'First', slot: null }, { name: 'Second', slot: 3 }]);

  expect((await send('PUT', `/models/${id}/saved-views/order`, { ids: [second.id, first.id] })).status).toBe(204);
  expect((await list()).map((v) => v.name)).toEqual(['Second', 'First']);
  expect((await send('DELETE', `/models/${id}/saved-views/${second.id}`)).status).toBe(204);
  expect(await (await send('PATCH', `/models/${id}/saved-views/${first.id}`, { slot: 3, name: 'Renamed' })).json()).toMatchObject({ slot: 3, name: 'Renamed' });
  // What comes back does not take the slot away again.
  expect((await send('POST', `/models/${id}/saved-views/${second.id}/restore`)).status).toBe(204);
  expect(await list()).toMatchObject([{ name: 'Second', slot: null }, { name: 'Renamed', slot: 3 }]);

  const refused = await send('POST', `/models/${id}/saved-views`, { name: 'Bad', document: { version: 2, camera: { ...camera, height: 'tall' } } });
  expect(refused.status).toBe(422);
  expect((await send('PATCH', `/models/${id}/saved-views/${first.id}`, { slot: 12 })).status).toBe(400);
  expect((await send('PATCH', `/models/${id}/saved-views/00000000-0000-4000-8000-00000000dead`, { name: 'x' })).status).toBe(404);
  expect((await send('PUT', `/models/${id}/saved-views/${first.id}/thumbnail`)).status).toBe(415);

  const { id: link } = (await (await send('POST', `/models/${id}/links`, { document })).json()) as { id: string };
  expect(await get(`/models/${id}/links/${link}`)).toEqual({ document });
});

test('settings and the preferences of a model are kept', async () => {
  const [{ id }] = await get<{ id: string }[]>('/models');
  expect(await get('/settings')).toEqual({ values: null });
  expect((await send('PUT', '/settings', { values: { theme: 'abyss' } })).status).toBe(204);
  expect(await get('/settings')).toEqual({ values: { theme: 'abyss' } });
  expect((await send('PUT', '/settings', { values: 'none' })).status).toBe(400);
  await send('PUT', `/models/${id}/preferences`, { values: { upAxis: 'y' } });
  expect(await get(`/models/${id}/preferences`)).toEqual({ values: { upAxis: 'y' } });
});

test('the API describes itself', async () => {
  const description = await get<{ paths: Record<string, unknown> }>('/docs-json');
  expect(Object.keys(description.paths)).toEqual(expect.arrayContaining(['/api/models', '/api/jobs/{id}', '/api/geometries/{hash}', '/api/models/{id}/questions/distance']));
});
