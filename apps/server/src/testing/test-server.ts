import fs from 'node:fs';
import net from 'node:net';
import type { INestApplicationContext } from '@nestjs/common';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { PAGE_HEADER, type JobView, type ModelListItem } from '@bathyscope/contracts';
import pg from 'pg';
import { publicFile as publicPath } from '../../../../packages/kernel/src/testing/public-file.ts';
import { createApp } from '../create-app.ts';
import { PlainLogger } from '../process/plain-logger.ts';
import { WorkModule } from '../worker/work.module.ts';

/** The bytes of a public STEP file. */
export const publicFile = (name: string): Buffer => fs.readFileSync(publicPath(name));

/** The same model under other bytes. */
export const copyOf = (bytes: Buffer, n: number | string): Buffer =>
  Buffer.from(
    bytes.toString('latin1').replace('END-ISO-10303-21;', `/* ${n} */\nEND-ISO-10303-21;`),
    'latin1',
  );

async function admin(sql: string): Promise<void> {
  const client = new pg.Client({ connectionString: process.env['TEST_DATABASE_URL'] });
  await client.connect();
  await client.query(sql);
  await client.end();
}

/** An empty database of its own, named in DATABASE_URL. bin/test starts the cluster. */
export async function freshDatabase(name: string): Promise<void> {
  process.env['TEST_DATABASE_URL'] ??= process.env['DATABASE_URL'];
  if (!process.env['TEST_DATABASE_URL'])
    throw new Error('DATABASE_URL is not set: run the tests with bin/test.');
  await admin(`drop database if exists ${name} with (force)`);
  await admin(`create database ${name}`);
  const url = new URL(process.env['TEST_DATABASE_URL']);
  url.pathname = `/${name}`;
  process.env['DATABASE_URL'] = url.href;
}

export interface Uploaded {
  status: number;
  body: { model: ModelListItem; job: JobView | null; duplicate: boolean; others: unknown[]; detail: string };
}

/**
 * The web server and a worker in this process, on one database. Started again on the same
 * database it is a restart.
 */
export class TestServer {
  app!: NestExpressApplication;
  worker!: INestApplicationContext;
  address!: string;

  static async start(): Promise<TestServer> {
    const server = new TestServer();
    await server.start();
    return server;
  }

  async start(): Promise<void> {
    this.app = await createApp();
    await this.app.listen(0, '127.0.0.1');
    this.address = await this.app.getUrl();
    this.worker = await NestFactory.createApplicationContext(WorkModule, { logger: new PlainLogger() });
  }

  async close(): Promise<void> {
    await Promise.all([this.app.close(), this.worker.close()]);
  }

  sql = async <T = Record<string, unknown>>(text: string, values: unknown[] = []): Promise<T[]> => {
    const client = new pg.Client({ connectionString: process.env['DATABASE_URL'] });
    await client.connect();
    try {
      return (await client.query(text, values)).rows as T[];
    } finally {
      await client.end();
    }
  };

  get = async <T>(url: string): Promise<T> => (await (await fetch(`${this.address}/api${url}`)).json()) as T;

  send = (method: string, url: string, body?: unknown): Promise<Response> =>
    fetch(`${this.address}/api${url}`, {
      method,
      ...(body !== undefined && {
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(body),
      }),
    });

  /** Of a new profile. */
  async cookie(): Promise<string> {
    const first = await fetch(`${this.address}/api/profile`, { headers: { [PAGE_HEADER]: '1' } });
    return first.headers.get('set-cookie')!.split(';')[0];
  }

  /** A browser: it keeps the cookie of its profile. */
  async browser(): Promise<(method: string, url: string, body?: unknown) => Promise<Response>> {
    const cookie = await this.cookie();
    return (method, url, body) =>
      fetch(`${this.address}/api${url}`, {
        method,
        headers: { Cookie: cookie, 'Content-Type': 'application/json' },
        ...(body !== undefined && { body: JSON.stringify(body) }),
      });
  }

  upload(name: string, ...files: Buffer[]): Promise<Uploaded> {
    return this.uploadBy('', name, ...files);
  }

  /** @param cookie of who uploads; empty for a program without a profile */
  async uploadBy(cookie: string, name: string, ...files: Buffer[]): Promise<Uploaded> {
    const form = new FormData();
    files.forEach((bytes, i) =>
      form.append('file', new Blob([new Uint8Array(bytes)]), i ? `${i} ${name}` : name),
    );
    const response = await fetch(`${this.address}/api/models`, {
      method: 'POST',
      body: form,
      headers: { Cookie: cookie },
    });
    return { status: response.status, body: (await response.json()) as Uploaded['body'] };
  }

  /** Uploads a file and waits for its model. */
  async open(name: string, bytes: Buffer): Promise<string> {
    const { body } = await this.upload(name, bytes);
    if (body.job) await this.until(body.job.id, ['done']);
    return body.model.id;
  }

  async until(jobId: string, states: string[], seconds = 120): Promise<JobView> {
    const end = Date.now() + seconds * 1000;
    for (;;) {
      const job = await this.get<JobView>(`/jobs/${jobId}`);
      if (states.includes(job.state)) return job;
      if (Date.now() > end) throw new Error(`The job is still ${job.state}.`);
      await new Promise((r) => setTimeout(r, 50));
    }
  }

  /**
   * Sends bytes as they are and gives what comes back until the other side closes, or
   * nothing comes for a while.
   */
  raw(request: string | Buffer, { breakAfter }: { breakAfter?: number } = {}): Promise<string> {
    return new Promise((resolve) => {
      const { hostname, port } = new URL(this.address);
      const socket = net.connect(Number(port), hostname);
      let answer = '';
      socket.setTimeout(3000, () => socket.destroy());
      socket.on('data', (d) => {
        answer += d.toString('latin1');
        if (answer.includes('\r\n\r\n')) setTimeout(() => socket.destroy(), 100);
      });
      socket.on('error', () => {}).on('close', () => resolve(answer));
      socket.on('connect', () => {
        socket.write(request);
        if (breakAfter !== undefined) setTimeout(() => socket.destroy(), breakAfter);
      });
    });
  }
}

/** Tables that hold nothing but what is referred to, when nothing is under way. */
export const ORPHANS = `
  select 'blob' as what, count(*)::int as n from blob where not exists (select from source_file f where f.blob_id = blob.id)
  union all select 'source_file', count(*)::int from source_file where not exists (select from revision r where r.file_hash = source_file.hash)
  union all select 'geometry', count(*)::int from geometry where not exists (select from revision_geometry g where g.hash = geometry.hash)
  union all select 'converting', count(*)::int from revision where state = 'converting'
  union all select 'queue', count(*)::int from graphile_worker._private_jobs where task_id in (select id from graphile_worker._private_tasks where identifier in ('run_job', 'run_short', 'run_beside', 'run_again'))`;
