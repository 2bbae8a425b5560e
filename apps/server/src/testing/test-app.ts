import fs from 'node:fs';
import path from 'node:path';
import { createRequire } from 'node:module';
import type { NestExpressApplication } from '@nestjs/platform-express';
import pg from 'pg';
import { createApp } from '../create-app.ts';

export const publicFile = (name: string): Buffer => {
  const folder = path.join(path.dirname(createRequire(__filename).resolve('occt-import-js/package.json')), 'test', 'testfiles');
  return fs.readFileSync(fs.readdirSync(folder).map((sub) => path.join(folder, sub, name)).find((p) => fs.existsSync(p))!);
};

async function admin(sql: string): Promise<void> {
  const client = new pg.Client({ connectionString: process.env['TEST_DATABASE_URL'] ?? process.env['DATABASE_URL'] });
  await client.connect();
  await client.query(sql);
  await client.end();
}

/** An empty database of its own, named in DATABASE_URL. bin/test starts the cluster. */
export async function freshDatabase(name: string): Promise<void> {
  process.env['TEST_DATABASE_URL'] ??= process.env['DATABASE_URL'];
  if (!process.env['TEST_DATABASE_URL']) throw new Error('DATABASE_URL is not set: run the tests with bin/test.');
  await admin(`drop database if exists ${name} with (force)`);
  await admin(`create database ${name}`);
  const url = new URL(process.env['TEST_DATABASE_URL']);
  url.pathname = `/${name}`;
  process.env['DATABASE_URL'] = url.href;
}

/** The application on a free port; started again on the same database it is a restart. */
export async function startApp(): Promise<{ app: NestExpressApplication; address: string }> {
  const app = await createApp();
  await app.listen(0, '127.0.0.1');
  return { app, address: await app.getUrl() };
}

export async function untilState(address: string, jobId: string, states: string[], seconds = 120): Promise<{ state: string; progress: number; problem: { detail: string } | null }> {
  const end = Date.now() + seconds * 1000;
  for (;;) {
    const job = (await (await fetch(`${address}/api/jobs/${jobId}`)).json()) as { state: string; progress: number; problem: { detail: string } | null };
    if (states.includes(job.state)) return job;
    if (Date.now() > end) throw new Error(`The job is still ${job.state}.`);
    await new Promise((r) => setTimeout(r, 100));
  }
}

export async function upload(address: string, name: string, bytes: Buffer): Promise<{ status: number; body: { model: { id: string }; job: { id: string } | null; duplicate: boolean } }> {
  const form = new FormData();
  form.append('file', new Blob([new Uint8Array(bytes)]), name);
  const response = await fetch(`${address}/api/models`, { method: 'POST', body: form });
  return { status: response.status, body: await response.json() };
}
