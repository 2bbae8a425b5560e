import { randomUUID } from 'node:crypto';
import type { KeptRecord } from '@bathyscope/contracts';
import { RECALL_ALL } from '@bathyscope/contracts/records';
import { VIEW_STATE_VERSION } from '@bathyscope/core/view-state';
import { freshDatabase, publicFile, TestServer } from '../testing/test-server.ts';

let server: TestServer;
let id: string;

beforeAll(async () => {
  await freshDatabase('views_test');
  server = await TestServer.start();
  id = await server.open('Cube.stp', publicFile('cube-mm.step'));
});
afterAll(() => server.close());

const camera = {
  projection: 'perspective',
  target: [1, 2, 3],
  orientation: [0, 0, 0, 1],
  height: 50,
  lens: 0.5,
};
const state = { version: VIEW_STATE_VERSION, camera };
const newer = { version: 99, camera, tide: { height: 3 } };
const NEWER = expect.objectContaining({ detail: expect.stringContaining('newer version') });

test('a link keeps what it was made of; what is no view state is refused', async () => {
  const links = `/models/${id}/links`;
  const { id: link } = (await (await server.send('POST', links, { document: state })).json()) as {
    id: string;
  };
  expect(await server.get(`${links}/${link}`)).toEqual({ document: state, revision: 1 });
  const bad = { version: 2, camera: { ...camera, height: 'tall' } };
  expect((await server.send('POST', links, { document: bad })).status).toBe(422);
});

test('what a newer version wrote is never overwritten: a last state, a saved view', async () => {
  const browser = await server.browser();
  expect((await browser('PUT', `/models/${id}/view-state`, { document: state })).status).toBe(204);
  await server.sql('update view_state set document = $1', [newer]);
  const refused = await browser('PUT', `/models/${id}/view-state`, { document: state });
  expect([refused.status, await refused.json()]).toEqual([409, NEWER]);
  expect(await server.sql('select document from view_state')).toEqual([{ document: newer }]);

  const address = `/models/${id}/records/${randomUUID()}`;
  const view = { name: 'Deck', slot: 3, recall: RECALL_ALL, revision: 1 };
  const put = async (document: object, match?: number) => {
    const answer = await fetch(`${server.address}/api${address}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json', ...(match && { 'If-Match': `"${match}"` }) },
      body: JSON.stringify({ kind: 'saved-view', version: 1, document }),
    });
    return [answer.status, await answer.json()];
  };
  await put({ ...view, state: newer });
  expect(await put({ ...view, state }, 1)).toEqual([422, NEWER]);
  // Its name may change; what it shows stays whole.
  expect(await put({ ...view, name: 'Lower deck', state: newer }, 1)).toMatchObject([
    200,
    { document: { name: 'Lower deck', state: newer } },
  ]);
});

test('the picture of a record: told to whoever follows, beside the list, gone with it', async () => {
  const address = `/models/${id}/records/${randomUUID()}`;
  await server.send('PUT', address, {
    kind: 'saved-view',
    version: 1,
    document: { name: 'A', slot: null, revision: 1, state },
  });
  const png = Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    Buffer.from('seen'),
  ]);
  const put = (at: string, body: Buffer) =>
    fetch(`${server.address}/api${at}/picture`, {
      method: 'PUT',
      headers: { 'Content-Type': 'image/png' },
      body: new Uint8Array(body),
    });
  expect((await put(address, png)).status).toBe(204);
  const { picture, rev } = await server.get<KeptRecord>(address);
  expect(rev).toBe(2);
  expect(Buffer.from(await (await fetch(`${server.address}${picture}`)).arrayBuffer())).toEqual(png);
  expect((await put(address, Buffer.from('none'))).status).toBe(415);
  expect((await put(`/models/${id}/records/${id}`, png)).status).toBe(404);
  expect((await fetch(`${server.address}/api/models/${id}/records/${id}/picture`)).status).toBe(404);
  await server.send('DELETE', address);
  await server.send('DELETE', `${address}/for-good`);
  expect(await server.sql('select 1 from record_picture')).toEqual([]);
});
