import { freshDatabase, publicFile, TestServer } from '../testing/test-server.ts';

let server: TestServer;
let id: string;

beforeAll(async () => {
  await freshDatabase('preferences_test');
  server = await TestServer.start();
  id = await server.open('Cube.stp', publicFile('cube-mm.step'));
});
afterAll(() => server.close());

const body = async (answer: Promise<Response>): Promise<unknown> => (await answer).json();

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
