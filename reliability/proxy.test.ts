import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import fs from 'node:fs';
import https from 'node:https';
import os from 'node:os';
import path from 'node:path';
import type { IncomingMessage } from 'node:http';
import { chromium, type Browser } from '@playwright/test';
import type { ModelListItem } from '@bathyscope/contracts';
import { fileURLToPath } from 'node:url';
import { freePort, publicFile, Running, wait } from './running.ts';

/* Behind Debian's nginx with TLS and under a path, by the very lines that the documentation has. */

jest.setTimeout(600_000);

const NAME = 'cad.example';
const BASE = '/bathyscope/';
const MB = 1024 * 1024;
const running = new Running({
  BATHYSCOPE_BASE: BASE,
  BATHYSCOPE_PROXY: 'loopback',
  BATHYSCOPE_HOSTS: `${NAME},127.0.0.1`,
});
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'bathyscope-nginx-'));
const documented = path.join(path.dirname(fileURLToPath(import.meta.url)), '../docs/nginx.conf');
let port = 0;
let proxy: ChildProcess | null = null;
let browser: Browser | null = null;

beforeAll(async () => {
  await running.start();
  port = await freePort();
  const [certificate, key] = [path.join(folder, 'cert.pem'), path.join(folder, 'key.pem')];
  const subject = ['-subj', `/CN=${NAME}`, '-addext', `subjectAltName=DNS:${NAME}`];
  execFileSync(
    'openssl',
    [
      'req',
      '-x509',
      '-newkey',
      'rsa:2048',
      '-nodes',
      '-days',
      '2',
      '-keyout',
      key,
      '-out',
      certificate,
      ...subject,
    ],
    {
      stdio: 'ignore',
    },
  );
  const site = fs
    .readFileSync(documented, 'utf8')
    .replace('listen 443', `listen 127.0.0.1:${port}`)
    .replace(/ssl_certificate \S+;/, `ssl_certificate ${certificate};`)
    .replace(/ssl_certificate_key \S+;/, `ssl_certificate_key ${key};`)
    .replace('127.0.0.1:4600', new URL(running.address).host);
  const bodies = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi']
    .map((what) => `${what}_temp_path ${folder}/${what};`)
    .join('\n');
  const whole = `daemon off; pid ${folder}/pid; error_log ${folder}/errors; ${process.getuid?.() === 0 ? 'user root;' : ''}
    events {} http { access_log off; ${bodies}\n${site} }`;
  fs.writeFileSync(path.join(folder, 'nginx.conf'), whole);
  proxy = spawn('/usr/sbin/nginx', ['-c', path.join(folder, 'nginx.conf')], { stdio: 'inherit' });
  await running.until(async () => (await ask('GET', 'api/models')).status === 200, 'the proxy answers');
});

afterAll(async () => {
  await browser?.close();
  proxy?.kill();
  await running.interrupt().catch(() => {});
  running.remove();
  fs.rmSync(folder, { recursive: true, force: true });
});

/** A request through the proxy; the answer while it may still stream. */
function open(
  method: string,
  address: string,
  headers: Record<string, string | number>,
  send: (out: NodeJS.WritableStream) => void,
) {
  return new Promise<IncomingMessage>((resolve, reject) => {
    const to = {
      host: '127.0.0.1',
      port,
      servername: NAME,
      rejectUnauthorized: false,
      agent: false as const,
    };
    const request = https.request(
      { ...to, method, path: `${BASE}${address}`, headers: { Host: `${NAME}:${port}`, ...headers } },
      resolve,
    );
    request.on('error', reject);
    send(request);
  });
}

async function ask(method: string, address: string, body?: object, headers: Record<string, string> = {}) {
  const sent = body ? JSON.stringify(body) : '';
  const answer = await open(
    method,
    address,
    { ...(body && { 'Content-Type': 'application/json' }), ...headers },
    (out) => out.end(sent),
  );
  let text = '';
  for await (const piece of answer) text += String(piece);
  return { status: answer.statusCode!, headers: answer.headers, text };
}

test('addresses in answers, the cookie, and who may change something', async () => {
  const first = await ask('GET', 'api/profile', undefined, { 'X-Bathyscope-Page': '1' });
  const [cookie] = first.headers['set-cookie'] ?? [];
  expect(cookie).toMatch(/; Path=\/bathyscope\/;.*; Secure/);
  expect((await ask('GET', 'api/models?limit=1')).headers['link']).toMatch(/^<\/bathyscope\/api\/models\?/);
  // A page of the same name is at home, one of another is not; and nobody is believed who is no proxy.
  const rename = (origin: string) =>
    ask(
      'PATCH',
      'api/settings',
      { values: { theme: 'abyss' } },
      { Origin: origin, Cookie: cookie.split(';')[0] },
    );
  expect((await rename(`https://${NAME}:${port}`)).status).toBeLessThan(300);
  expect((await rename('https://elsewhere.example')).status).toBe(403);
  const root = await fetch(running.address.replace(/\/bathyscope$/, '/'), { redirect: 'manual' });
  expect([root.status, root.headers.get('location')]).toEqual([302, BASE]);
  expect((await fetch(running.address.replace(/\/bathyscope$/, '/api/models'))).status).toBe(404);
});

test('300 MB go through, and what changes is told on the open line at once', async () => {
  const heard: string[] = [];
  const line = await open('GET', 'api/events', { Accept: 'text/event-stream' }, (out) => out.end());
  line.on('data', (piece: Buffer) => heard.push(piece.toString()));
  line.on('error', () => {});
  const cube = publicFile('cube-mm.step');
  const [head, rest] = [cube.slice(0, cube.indexOf('DATA;')), cube.slice(cube.indexOf('DATA;'))];
  const frame = [
    `--b\r\nContent-Disposition: form-data; name="file"; filename="Large.step"\r\n\r\n${head}`,
    `${rest}\r\n--b--\r\n`,
  ];
  const blank = Buffer.alloc(MB, '\n');
  const length = frame.join('').length + 300 * MB;
  const answer = await open(
    'POST',
    'api/models',
    { 'Content-Type': 'multipart/form-data; boundary=b', 'Content-Length': length },
    (out) => {
      const write = async () => {
        out.write(frame[0]);
        for (let i = 0; i < 300; i++)
          if (!out.write(blank)) await new Promise((drained) => out.once('drain', drained));
        out.end(frame[1]);
      };
      void write();
    },
  );
  let text = '';
  for await (const piece of answer) text += String(piece);
  expect(answer.statusCode).toBe(201);
  const { model, job } = JSON.parse(text) as { model: ModelListItem; job: { id: string } };
  expect(model.fileSize).toBe(cube.length + 300 * MB);
  await running.until(() => Promise.resolve(heard.join('').includes(job.id)), 'the job is told');
  expect((await ask('DELETE', `api/jobs/${job.id}`)).status).toBe(204);
  line.destroy();
});

test('the page works there: shelf, workspace, an address within, a link for a colleague', async () => {
  browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      `--host-resolver-rules=MAP ${NAME} 127.0.0.1`,
      '--use-gl=angle',
      '--use-angle=gl-egl',
      '--ignore-gpu-blocklist',
    ],
  });
  const context = await browser.newContext({
    ignoreHTTPSErrors: true,
    viewport: { width: 900, height: 600 },
  });
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  const page = await running.within('a page is opened', context.newPage());
  const faults: string[] = [];
  page.on('pageerror', (error) => faults.push(error.message));
  page.on(
    'response',
    (response) => response.status() >= 400 && faults.push(`${response.status()} ${response.url()}`),
  );
  page.on(
    'requestfailed',
    (request) => !request.failure()?.errorText.includes('ABORTED') && faults.push(`failed ${request.url()}`),
  );
  const lamp = async () =>
    (await running.get<ModelListItem[]>('/models')).body.find(
      (m) => m.name.startsWith('Lamp') && m.state === 'ready',
    );
  await running.until(async () => (await lamp()) !== undefined, 'the lamp housing is converted');
  const home = `https://${NAME}:${port}${BASE}`;
  await page.goto(home);
  await page
    .getByRole('link', { name: /Lamp housing/ })
    .first()
    .click();
  await page.waitForURL(`${home}models/*`);
  await page.locator('canvas').first().waitFor();
  await page.reload();
  await page.locator('canvas').first().waitFor();
  await page.getByRole('button', { name: 'Copy a link to this view' }).click();
  await page.getByText('The link is on the clipboard').waitFor();
  // What tests in the browser are lent is not in what is shipped.
  expect(await page.evaluate(() => 'bathyscope' in window)).toBe(false);
  const link = await running.within(
    'the clipboard is read',
    page.evaluate(() => navigator.clipboard.readText()),
  );
  expect(link.startsWith(`${home}models/`)).toBe(true);
  await page.goto(link);
  await page.locator('canvas').first().waitFor();
  // The picture of the shelf's card is made and shown.
  await running.until(
    async () => faults.length > 0 || Boolean((await lamp())?.thumbnail),
    'there is a picture',
  );
  expect(faults).toEqual([]);
  await page
    .getByRole('link', { name: 'Back to the shelf' })
    .or(page.getByTitle('Back to the shelf'))
    .first()
    .click();
  await page.waitForURL(home);
  await page.locator('img[src*="/bathyscope/api/models/"]').first().waitFor();
  await wait(500);
  expect(faults).toEqual([]);
});
