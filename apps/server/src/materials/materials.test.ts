import { freshDatabase, TestServer } from '../testing/test-server.ts';

let server: TestServer;
beforeAll(async () => {
  await freshDatabase('materials_test');
  server = await TestServer.start();
});
afterAll(() => server.close());

const ID = '7a1f6f0e-7c55-4d6e-9a6d-3f1a2b4c5d6e';
const OTHER = '8b2f6f0e-7c55-4d6e-9a6d-3f1a2b4c5d6f';
const foam = {
  name: 'Syntactic foam TF-600',
  family: 'Foam',
  density: 612,
  spread: 12,
  source: 'maker’s sheet of 2025',
};
const detail = async (answer: Promise<Response>) => [
  (await answer).status,
  ((await (await answer).json()) as { detail: string }).detail,
];

test('own materials are the installation’s: anybody adds, changes and takes away, and names are told apart without case', async () => {
  const [ann, ben] = [await server.browser(), await server.browser()];
  expect((await ann('PUT', `/materials/${ID}`, foam)).status).toBe(204);
  expect(await (await ben('GET', '/materials')).json()).toEqual([{ id: ID, ...foam }]);
  expect(await detail(ben('PUT', `/materials/${OTHER}`, { ...foam, name: 'SYNTACTIC foam tf-600' }))).toEqual(
    [409, expect.stringContaining('There is a material “SYNTACTIC foam tf-600” already')],
  );
  expect((await ben('PUT', `/materials/${ID}`, { ...foam, density: 605 })).status).toBe(204);
  expect(await (await ann('GET', '/materials')).json()).toMatchObject([{ density: 605 }]);
  // Of many at once that take one name one gets it.
  const all = await Promise.all(
    [1, 2, 3, 4].map((n) =>
      ben('PUT', `/materials/8b2f6f0e-7c55-4d6e-9a6d-3f1a2b4c5d7${n}`, { ...foam, name: 'Potting' }),
    ),
  );
  expect(all.map((r) => r.status).sort()).toEqual([204, 409, 409, 409]);
  expect((await ann('DELETE', `/materials/${ID}`)).status).toBe(204);
  expect((await ann('DELETE', `/materials/${ID}`)).status).toBe(204);
  expect(await (await ann('GET', '/materials')).json()).toMatchObject([{ name: 'Potting' }]);
});

test.each([
  [{ density: 0 }, /density is above 0/],
  [{ density: -3 }, /density is above 0/],
  [{ density: 'heavy' }, /density is above 0/],
  [{ density: 1e6 }, /density is above 0/],
  [{ spread: -1 }, /spread/],
  [{ name: '' }, /between 1 and 200/],
  [{ name: 'two\nlines' }, /one line/],
  [{ family: 'Cheese' }, /one of the families/],
])('a material %j is refused with its sentence', async (change, why) => {
  const ann = await server.browser();
  const [status, said] = await detail(ann('PUT', `/materials/${ID}`, { ...foam, ...change }));
  expect(status).toBe(400);
  expect(said).toMatch(why);
});
