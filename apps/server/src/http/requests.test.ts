import { ODD_BODIES } from '../testing/odd-bodies.ts';
import { freshDatabase, publicFile, TestServer } from '../testing/test-server.ts';

let server: TestServer;
let id: string;

beforeAll(async () => {
  await freshDatabase('requests_test');
  server = await TestServer.start();
  id = await server.open('Cube.stp', publicFile('cube-mm.step'));
});
afterAll(() => server.close());

const request = (
  method: string,
  url: string,
  body: string | Buffer,
  headers: Record<string, string> = {},
): Promise<Response> =>
  fetch(`${server.address}${url}`, {
    method,
    body: typeof body === 'string' ? body : new Uint8Array(body),
    headers: { 'Content-Type': 'application/json', ...headers },
  });

describe('a bad request is told what is wrong with it, and changes nothing', () => {
  test.each(ODD_BODIES)('%s', async (_, status, sentence, ask) => {
    const response = await ask(request, id);
    expect(response.headers.get('content-type')).toContain('application/problem+json');
    const problem = (await response.json()) as { status: number; detail: string };
    expect(problem).toMatchObject({ status, detail: expect.stringMatching(sentence) });
    expect(response.status).toBe(status);
    expect(await server.get('/settings')).toEqual({ values: null });
    expect(await server.get(`/models/${id}`)).toMatchObject({ name: 'Cube' });
  });
});

test('names that the language knows are names: a document comes back as it went, and takes nothing else along', async () => {
  const values =
    '{"prototype":{"__proto__":{"toString":2},"constructor":1},"constructor":{"prototype":3},"__proto__":{"a":4},"hasOwnProperty":5}';
  const address = `/api/models/${id}/records/00000000-0000-4000-8000-000000000002`;
  const sent = `{"component":"","name":"A","more":${values}}`;
  const answer = await request(
    'PUT',
    address,
    `{"kind":"component-name","version":1,"document":${sent},"more":{"version":7}}`,
  );
  expect(answer.status).toBe(200);
  const kept = (await (await fetch(server.address + address)).json()) as {
    version: number;
    document: { more: object };
  };
  expect(kept.version).toBe(1);
  expect(JSON.stringify(Object.entries(kept.document.more).sort())).toBe(
    JSON.stringify(Object.entries(JSON.parse(values) as object).sort()),
  );
});

test('HEAD is answered like GET without the body, and ends', async () => {
  for (const url of ['/api/models', `/api/models/${id}`, '/api/jobs', '/api/events', '/api/docs-json']) {
    const response = await fetch(server.address + url, { method: 'HEAD' });
    expect([url, response.status, await response.text()]).toEqual([url, 200, '']);
  }
});

test('an address with the server in it, as a proxy is asked (RFC 9112, 3.2.2), is the address alone', async () => {
  const said = await server.raw(
    'GET http://localhost/api/models HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n',
  );
  expect(said).toMatch(/^HTTP\/1\.1 200/);
});

test('only the names of this machine are served, and nothing is changed for a page of another site', async () => {
  const say = async (host: string, headers = '', method = 'GET', path = '/api/models') =>
    (
      await server.raw(
        `${method} ${path} HTTP/1.1\r\nHost: ${host}\r\n${headers}Content-Length: 0\r\nConnection: close\r\n\r\n`,
      )
    ).slice(9, 12);
  const port = new URL(server.address).port;
  for (const host of ['localhost', `localhost:${port}`, '127.0.0.1:4600', '[::1]', 'LOCALHOST'])
    expect([host, await say(host)]).toEqual([host, '200']);
  for (const host of ['evil.example', 'localhost.evil.example', '10.0.0.7', `localhost@evil.example`, ''])
    expect([host, await say(host)]).toEqual([host, host ? '421' : expect.stringMatching(/421|400/)]);
  const restore = (headers: string) => say(`localhost:${port}`, headers, 'POST', `/api/models/${id}/restore`);
  expect(await restore('')).toBe('204');
  expect(await restore(`Origin: http://localhost:${port}\r\n`)).toBe('204');
  for (const origin of [
    'http://evil.example',
    'http://localhost:1',
    'null',
    'http://localhost.evil.example',
    'rubbish',
  ])
    expect([origin, await restore(`Origin: ${origin}\r\n`)]).toEqual([origin, '403']);
  expect(await restore('Sec-Fetch-Site: cross-site\r\n')).toBe('403');
});

test('headers keep scripts, frames and guesses out', async () => {
  const { headers } = await fetch(`${server.address}/api/models`);
  const policy = headers.get('content-security-policy')!;
  expect(policy).toMatch(/script-src 'self'(;|$)/);
  expect(policy).toContain("frame-ancestors 'none'");
  expect(headers.get('x-content-type-options')).toBe('nosniff');
  expect(headers.get('referrer-policy')).toBe('no-referrer');
  expect(headers.get('x-powered-by')).toBeNull();
});

test('a database that is away is told as such, and is found again when it is back', async () => {
  await server.sql(
    `select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()`,
  );
  const statuses = await Promise.all(
    Array.from({ length: 20 }, async () => (await server.send('GET', '/models')).status),
  );
  expect(statuses.every((s) => s === 200 || s === 503)).toBe(true);
  expect((await server.send('GET', '/models')).status).toBe(200);
});
