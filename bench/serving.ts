import fs from 'node:fs';
import http from 'node:http';
import { chromium } from '@playwright/test';
import type { ModelDetail, ModelListItem } from '@bathyscope/contracts';
import { publicFile, Running, wait } from '../reliability/running.ts';
import { LAUNCH } from './browser.ts';
import { report } from './report.ts';

/*
 * Budget: many readers against one, a shelf of 5,000 models against one of 50, and the server's
 * memory after a large upload.
 */

const READERS = 50;
const REQUESTS = 1000;
const LARGE_MB = 300;

const fetchOnce = (url: string, headers: Record<string, string>, agent: http.Agent): Promise<void> =>
  new Promise((resolve, reject) => {
    http.get(url, { headers, agent }, (r) => r.resume().on('end', resolve)).on('error', reject);
  });

/** ms a request, when so many readers ask all the time. */
async function perRequest(url: string, headers: Record<string, string>, readers: number): Promise<number> {
  const agent = new http.Agent({ keepAlive: true, maxSockets: readers });
  await fetchOnce(url, headers, agent);
  const start = performance.now();
  let left = REQUESTS;
  await Promise.all(
    Array.from({ length: readers }, async () => {
      while (left-- > 0) await fetchOnce(url, headers, agent);
    }),
  );
  agent.destroy();
  return (performance.now() - start) / REQUESTS;
}

async function firstCards(address: string): Promise<{ ms: number; elements: number }> {
  const browser = await chromium.launch(LAUNCH);
  try {
    const times: number[] = [];
    let elements = 0;
    for (let i = 0; i < 3; i++) {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      const start = performance.now();
      await page.goto(address);
      await page
        .getByRole('link', { name: /^Open / })
        .first()
        .waitFor();
      times.push(performance.now() - start);
      elements = await page.locator('*').count();
      await page.close();
    }
    return { ms: times.sort((a, b) => a - b)[1], elements };
  } finally {
    await browser.close();
  }
}

/** Models of an invented shelf, that show what the first one shows. */
const fill = (running: Running, count: number): Promise<unknown> =>
  running.database((knex) =>
    knex.raw(
      `
  with src as (select r.*, m.owner_id as owner from revision r join model m on m.id = r.model_id where r.state = 'ready' limit 1),
    made as (insert into model (owner_id, name, created_at) select owner, 'Bracket ' || n, now() - n * interval '1 minute' from src, generate_series(1, ?) n returning id, owner_id)
  insert into revision (owner_id, model_id, revision, file_name, file_hash, state, summary) select made.owner_id, made.id, 1, 'x.stp', src.file_hash, 'ready', src.summary from made, src`,
      [count],
    ),
  );

const residentMB = (pid: number): number =>
  Number(/VmRSS:\s+(\d+)/.exec(fs.readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;

export async function benchServing(): Promise<void> {
  const running = new Running();
  try {
    await running.start();
    await running.upload('Rods.stp', publicFile('as1-oc-214.stp'));
    await running.until(
      async () => (await running.get<unknown[]>('/jobs')).body.length === 0,
      'all is converted',
    );
    const [valve] = (await running.get<ModelListItem[]>('/models')).body.filter((m) =>
      m.name.startsWith('Ballast'),
    );
    const detail = (await running.get<ModelDetail>(`/models/${valve.id}`)).body;
    for (const [what, url] of [
      ['a model', `/models/${valve.id}`],
      ['a geometry', `/geometries/${detail.structure.parts[0].geometry}`],
    ])
      for (const encoding of ['br', 'identity']) {
        const headers = { 'Accept-Encoding': encoding };
        const one = await perRequest(`${running.address}/api${url}`, headers, 1);
        report(
          `${what}, ${encoding === 'br' ? 'packed' : 'unpacked'}, ${READERS} readers: time a request`,
          (await perRequest(`${running.address}/api${url}`, headers, READERS)) / one,
          '×',
          'one reader',
        );
      }
    await fill(running, 50);
    const few = await firstCards(running.address);
    await fill(running, 4950);
    const many = await firstCards(running.address);
    report(
      'shelf of 5,000 models: first cards',
      many.ms / few.ms,
      '×',
      `50 models; ${many.elements} elements against ${few.elements}`,
    );
    await memoryOfUpload(running);
  } finally {
    await running.interrupt().catch(() => {});
    running.remove();
  }
}

async function memoryOfUpload(running: Running): Promise<void> {
  const [pid] = running.pids('main.js');
  const upload = async (mb: number) => {
    const filler = Buffer.alloc(1024 * 1024, 'a comment without end ');
    const head = Buffer.from(
      '--b\r\nContent-Disposition: form-data; name="file"; filename="large.step"\r\n\r\nISO-10303-21;\n/*',
    );
    const tail = Buffer.from('*/END-ISO-10303-21;\n\r\n--b--\r\n');
    await new Promise<void>((resolve, reject) => {
      const request = http
        .request(
          `${running.address}/api/models`,
          {
            method: 'POST',
            headers: {
              'Content-Type': 'multipart/form-data; boundary=b',
              'Content-Length': head.length + mb * filler.length + tail.length,
            },
          },
          (r) => r.resume().on('end', resolve),
        )
        .on('error', reject);
      request.write(head);
      const more = (left: number): void =>
        void (left ? request.write(filler, () => more(left - 1)) : request.end(tail));
      more(mb);
    });
  };
  await upload(10);
  await wait(2000);
  const before = residentMB(pid);
  let peak = before;
  const timer = setInterval(() => (peak = Math.max(peak, residentMB(pid))), 50);
  await upload(LARGE_MB);
  await wait(5000);
  clearInterval(timer);
  report(
    `upload of ${LARGE_MB} MB: memory after it`,
    residentMB(pid) / before,
    '×',
    `before it, ${before.toFixed(0)} MB; at most ${peak.toFixed(0)} MB`,
  );
}
