import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import http from 'node:http';
import os from 'node:os';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { gzipSync } from 'node:zlib';
import type { ModelDetail } from '@bathyscope/contracts';
import { ODD_BODIES, type Send } from '../apps/server/src/testing/odd-bodies.ts';
import { publicFile, Running } from '../reliability/running.ts';
import { firstFrame } from './browser.ts';
import { report } from './report.ts';

/*
 * Budget: a model with 2,000 records against one with none; from a change to whoever follows against one
 * round trip; readers while the server is flooded against readers alone.
 */

const RECORDS = 2000;
const ROUNDS = 30;
const READS = 200;
/** Requests of the flood that are under way at once. */
const FLOOD = 24;

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1];

const change = (document: object): object => ({
  changes: [
    { id: randomUUID(), kind: 'pick-set', version: 1, document, position: 1, deleted: false, match: null },
  ],
});

const send = async (url: string, body: object): Promise<void> => {
  const headers = { 'Content-Type': 'application/json' };
  const response = await fetch(url, { method: 'PATCH', headers, body: JSON.stringify(body) });
  if (!response.ok) throw new Error(await response.text());
  await response.arrayBuffer();
};

/** ms from sending a change to hearing of it, and to its answer. */
async function told(running: Running, model: string): Promise<{ heard: number; answered: number }> {
  const heardOf: (() => void)[] = [];
  const stream = http.get(`${running.address}/api/events?models=${model}`, (r) =>
    r.on('data', (d: Buffer) => d.toString().includes('event: record') && heardOf.shift()?.()),
  );
  await new Promise((done) => stream.once('response', done));
  const [heard, answered]: number[][] = [[], []];
  for (let i = 0; i < ROUNDS; i++) {
    const start = performance.now();
    const hears = new Promise<void>((done) => heardOf.push(done)).then(() =>
      heard.push(performance.now() - start),
    );
    await send(`${running.address}/api/models/${model}/records`, change({ name: `Set ${i}`, items: [] }));
    answered.push(performance.now() - start);
    await hears;
  }
  stream.destroy();
  return { heard: median(heard), answered: median(answered) };
}

async function reads(url: string): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < READS; i++) {
    const start = performance.now();
    await (await fetch(url)).arrayBuffer();
    times.push(performance.now() - start);
  }
  // The slowest but two: what somebody notices.
  return times.sort((a, b) => a - b)[READS - 3];
}

/** Sends a small body that unpacks to much, over and over. */
function flood(address: string): () => Promise<void> {
  const body = gzipSync(`{"values":[${'[],'.repeat(1.3e6)}0]}`);
  let going = true;
  const senders = Array.from({ length: FLOOD }, async () => {
    while (going)
      await fetch(`${address}/api/settings`, {
        method: 'PATCH',
        headers: { 'Content-Type': 'application/json', 'Content-Encoding': 'gzip' },
        body,
      }).then(
        (r) => r.arrayBuffer(),
        () => {},
      );
  });
  return async () => {
    going = false;
    await Promise.all(senders);
  };
}

/** How long the web server's event loop was held at the most since it was asked last, ms. */
async function heldFor(running: Running, file: string): Promise<number> {
  fs.rmSync(file, { force: true });
  process.kill(running.pids('main.js')[0], 'SIGUSR2');
  await running.until(
    () => Promise.resolve(fs.existsSync(file) && fs.readFileSync(file, 'utf8') !== ''),
    'it is told',
  );
  return Number(fs.readFileSync(file, 'utf8'));
}

/** No request may hold the event loop for 50 ms, whatever its body. */
async function watched(running: Running, file: string, model: string): Promise<void> {
  const request: Send = (method, url, body, headers) =>
    fetch(`${running.address}${url}`, {
      method,
      body: typeof body === 'string' ? body : new Uint8Array(body),
      headers: { 'Content-Type': 'application/json', ...headers },
    });
  await heldFor(running, file);
  let worst = { name: '', held: 0 };
  for (const [name, , , ask] of ODD_BODIES) {
    await ask(request, model).then((r) => r.arrayBuffer());
    const held = await heldFor(running, file);
    if (held > worst.held) worst = { name, held };
  }
  report(
    'the longest that one odd body holds the event loop, of 50 ms',
    worst.held / 50,
    '×',
    `${worst.held.toFixed(0)} ms: ${worst.name}`,
  );
}

export async function benchRecords(): Promise<void> {
  const loopFile = path.join(os.tmpdir(), `bathyscope-loop-${process.pid}`);
  const watch = pathToFileURL(path.join(import.meta.dirname, 'watch-loop.mjs')).href;
  const running = new Running({ NODE_OPTIONS: `--import ${watch}`, LOOP_FILE: loopFile });
  await running.start();
  try {
    const ready = async (name: string, text: string) => {
      const { id } = (await running.upload(name, text)).body.model;
      await running.until(
        async () => (await running.get<ModelDetail>(`/models/${id}`)).body.state === 'ready',
        `${name} is ready`,
      );
      return id;
    };
    const text = publicFile('as1-oc-214.stp');
    const plain = await ready('Plain.stp', text);
    const kept = await ready('Kept.stp', text.replace('END-ISO-10303-21;', '/* kept */\nEND-ISO-10303-21;'));
    const entry = {
      name: 'Figure',
      of: [{ kind: 'component', component: '.' }],
      figure: '',
      was: 1,
      revision: 1,
    };
    await running.database((knex) =>
      knex.raw(
        `insert into record (id, model_id, kind, version, document, position, made_on)
         select gen_random_uuid(), ?, 'ledger-entry', 1, ?::jsonb, n, 1 from generate_series(1, ?::int) n`,
        [kept, JSON.stringify(entry), RECORDS],
      ),
    );
    const [without, withMany] = [
      await firstFrame(`${running.address}/models/${plain}`),
      await firstFrame(`${running.address}/models/${kept}`),
    ];
    report(
      `opening a model with ${RECORDS} records against one with none`,
      withMany / without,
      '×',
      `${without.toFixed(0)} ms and ${withMany.toFixed(0)} ms`,
    );
    const { heard, answered } = await told(running, plain);
    report(
      'from a change to whoever follows, in round trips',
      heard / answered,
      '×',
      `${heard.toFixed(1)} ms against ${answered.toFixed(1)} ms`,
    );
    await watched(running, loopFile, plain);
    const shelf = `${running.address}/api/models`;
    const alone = await reads(shelf);
    const stop = flood(running.address);
    const flooded = await reads(shelf);
    await stop();
    report(
      `readers while ${FLOOD} send bombs without end, against readers alone (third slowest of ${READS})`,
      flooded / alone,
      '×',
      `${alone.toFixed(1)} ms and ${flooded.toFixed(1)} ms`,
    );
  } finally {
    await running.interrupt().catch(() => {});
    running.remove();
  }
}
