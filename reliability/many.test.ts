import http from 'node:http';
import net from 'node:net';
import fs from 'node:fs';
import { gzipSync } from 'node:zlib';
import type { ModelDetail, ModelListItem } from '@bathyscope/contracts';
import { publicFile, Running } from './running.ts';

/* Two installations of processes on one database; and many who want something of one server, or nothing. */

jest.setTimeout(600_000);

const first = new Running();
let second: Running | null = null;
let copies = 0;
const cube = publicFile('cube-mm.step');
const fresh = (): string => cube.replace('END-ISO-10303-21;', `/* many ${++copies} */\nEND-ISO-10303-21;`);

beforeAll(() => first.start());
afterAll(async () => {
  await second?.interrupt().catch(() => {});
  await first.interrupt().catch(() => {});
  first.remove();
  second?.remove();
});

test('two web servers with two workers each on one database: what is kept by one is told by the other, and what one has taken is done when it is killed', async () => {
  second = new Running({ DATABASE_URL: first.databaseUrl() });
  await second.start();
  const [model] = (await first.get<ModelListItem[]>('/models')).body;
  const heard: string[] = [];
  const line = http.get(`${second.address}/api/events?models=${model.id}`, (answer) =>
    answer.on('data', (d: Buffer) => heard.push(d.toString())),
  );
  line.on('error', () => {});
  await second.until(() => Promise.resolve(heard.join('').includes('version')), 'the line stands');
  const id = '6f1d3f0e-52a5-4b5f-9d5c-0123456789ab';
  const kept = await fetch(`${first.address}/api/models/${model.id}/records/${id}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({
      kind: 'kept-weight',
      version: 1,
      document: { name: 'Told', mass: 1, centreOfGravity: [0, 0, 0], revision: 1 },
    }),
  });
  expect(kept.status).toBe(200);
  await second.until(() => Promise.resolve(heard.join('').includes(id)), 'the other tells of it');

  const sent: { text: string; id: string }[] = [];
  for (let i = 0; i < 16; i++) {
    const text = fresh();
    const { status, body } = await (i % 2 ? second : first).upload(`Shared ${i}.stp`, text);
    expect(status).toBe(201);
    sent.push({ text, id: body.model.id });
  }
  second.killAll();
  line.destroy();
  await first.until(async () => {
    const states = await Promise.all(
      sent.map(async ({ id: of }) => (await first.get<ModelDetail>(`/models/${of}`)).body.state),
    );
    return states.every((state) => state === 'ready');
  }, 'all are converted');
  // Once each, by whichever worker: the same bytes are the same model.
  for (const { text, id: of } of sent)
    expect((await first.upload('Again.stp', text)).body).toMatchObject({
      duplicate: true,
      model: { id: of },
    });
});

const raw = (): { host: string; port: number } => ({
  host: '127.0.0.1',
  port: Number(new URL(first.address).port),
});

test('2,000 connections that want nothing, and 300 that never end what they began, keep nobody from being served', async () => {
  const began = Buffer.from('POST /api/models HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Le');
  const sockets = await Promise.all(
    Array.from(
      { length: 2300 },
      (_, i) =>
        new Promise<net.Socket>((resolve, reject) => {
          const socket = net.connect(raw(), () => {
            if (i >= 2000) socket.write(began);
            resolve(socket);
          });
          socket.on('error', reject);
        }),
    ),
  );
  const answers = await Promise.all(Array.from({ length: 50 }, () => first.get('/models')));
  expect(answers.filter((a) => a.status !== 200)).toEqual([]);
  const { status, body } = await first.upload('Beside them.stp', fresh());
  expect(status).toBe(201);
  await first.until(
    async () => (await first.get<ModelDetail>(`/models/${body.model.id}`)).body.state === 'ready',
    'it is converted',
  );
  sockets.forEach((s) => s.on('error', () => {}).destroy());
});

/** Bytes that a process held at its most (proc(5)). */
const peakOf = (pid: number): number =>
  1024 * Number(/^VmHWM:\s+(\d+)/m.exec(fs.readFileSync(`/proc/${pid}/status`, 'utf8'))![1]);
const GB = 1024 ** 3;

test('24 senders of bombs without end: each is refused, readers are served, and the server stays the same, and small', async () => {
  const [server] = first.pids('main.js');
  const bombs = [
    gzipSync(Buffer.alloc(4 * 1024 * 1024, ' ')),
    gzipSync(Buffer.from(`{"values":${'['.repeat(2e6)}`)),
    Buffer.from(`{"a":${'{"b":'.repeat(9000)}`),
  ];
  let over = false;
  const statuses = new Map<number, number>();
  const sender = async (i: number) => {
    while (!over) {
      const body = bombs[i % bombs.length];
      const zipped = body[0] === 0x1f;
      const answer = await fetch(`${first.address}/api/settings`, {
        method: 'PATCH',
        headers: { 'Content-Type': 'application/json', ...(zipped && { 'Content-Encoding': 'gzip' }) },
        body: new Uint8Array(body),
      }).catch(() => null);
      await answer?.arrayBuffer().catch(() => null);
      const status = answer?.status ?? 0;
      statuses.set(status, (statuses.get(status) ?? 0) + 1);
    }
  };
  const senders = Array.from({ length: 24 }, (_, i) => sender(i));
  for (let i = 0; i < 100; i++) expect((await first.get('/models')).status).toBe(200);
  over = true;
  await Promise.all(senders);
  process.stdout.write(`Bombs were answered with ${JSON.stringify([...statuses])}.\n`);
  for (const status of statuses.keys()) expect([400, 413, 0]).toContain(status);
  expect(first.pids('main.js')).toEqual([server]);
  expect(peakOf(server)).toBeLessThan(GB);
});
