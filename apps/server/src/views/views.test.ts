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

test('many views at once into one slot: each is kept, and one of them has it', async () => {
  const names = Array.from({ length: 12 }, (_, i) => `At once ${i}`);
  const document = {
    version: VIEW_STATE_VERSION,
    camera: { projection: 'perspective', target: [1, 2, 3], orientation: [0, 0, 0, 1], height: 50, lens: 0.5 },
  };
  const answers = await Promise.all(names.map((name) => server.send('POST', `/models/${id}/saved-views`, { name, document, slot: 7 })));
  expect(answers.map((a) => a.status)).toEqual(names.map(() => 201));
  const views = (await server.get<{ id: string; name: string; slot: number | null }[]>(`/models/${id}/saved-views`)).filter((v) =>
    names.includes(v.name),
  );
  expect(views.map((v) => v.name).sort()).toEqual([...names].sort());
  expect(views.filter((v) => v.slot === 7)).toHaveLength(1);
  const changed = await Promise.all(views.map((v) => server.send('PATCH', `/models/${id}/saved-views/${v.id}`, { slot: 7 })));
  expect(changed.map((a) => a.status)).toEqual(views.map(() => 200));
});

test('what a newer version wrote is never overwritten: a last state, a saved view', async () => {
  const camera = { projection: 'perspective', target: [1, 2, 3], orientation: [0, 0, 0, 1], height: 50, lens: 0.5 };
  const document = { version: VIEW_STATE_VERSION, camera };
  const browser = await server.browser();
  expect((await browser('PUT', `/models/${id}/view-state`, { document })).status).toBe(204);
  const view = (await (await browser('POST', `/models/${id}/saved-views`, { name: 'Newer', document })).json()) as { id: string };
  const newer = { version: 99, camera, tide: { height: 3 } };
  await server.sql('update view_state set document = $1', [newer]);
  await server.sql('update saved_view set document = $1 where id = $2', [newer, view.id]);
  const refused = await browser('PUT', `/models/${id}/view-state`, { document });
  expect([refused.status, await refused.json()]).toEqual([
    409,
    expect.objectContaining({ detail: expect.stringContaining('newer version') }),
  ]);
  expect((await browser('PATCH', `/models/${id}/saved-views/${view.id}`, { document })).status).toBe(409);
  expect((await browser('PATCH', `/models/${id}/saved-views/${view.id}`, { name: 'Renamed' })).status).toBe(200);
  expect((await browser('PATCH', `/models/${id}/saved-views/${id}`, { document })).status).toBe(404);
  expect(await server.sql('select document from view_state')).toEqual([{ document: newer }]);
  expect(await server.sql('select document, name from saved_view where id = $1', [view.id])).toEqual([
    { document: newer, name: 'Renamed' },
  ]);
});
