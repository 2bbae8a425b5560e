import { spawn, type ChildProcess } from 'node:child_process';
import fs from 'node:fs';
import net from 'node:net';
import os from 'node:os';
import path from 'node:path';
import type { JobView, ModelListItem } from '@bathyscope/contracts';
import { fileURLToPath } from 'node:url';
import knexFactory from 'knex';
import { publicFile as publicPath } from '../packages/kernel/src/testing/public-file.ts';
import type { Knex } from 'knex';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
/** The text of a public STEP file. */
export const publicFile = (name: string): string => fs.readFileSync(publicPath(name), 'latin1');

/** Longer runs by `npm run soak`: so many times as much. */
export const SOAK = Number(process.env['SOAK'] ?? 1);

/** Numbers from 0 to 1 that are the same in every run (mulberry32, public domain). */
export function seeded(seed: number): () => number {
  let a = seed;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/**
 * What ends a wait that hangs, before the test's own end hides what was waited for: no assertion
 * on how fast anything is.
 */
const PATIENCE_S = 400;

export const wait = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

export const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const server = net.createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as net.AddressInfo;
      server.close(() => resolve(port));
    });
  });

export interface Answer {
  /** 0 when there was none. */
  status: number;
  body: { model: ModelListItem; job: JobView | null; duplicate: boolean; detail: string };
}

const DEMO = 'Lamp housing LH-20.step';

/** Bathyscope as `bin/start` runs it, with data of its own. */
export class Running {
  readonly data = fs.mkdtempSync(path.join(os.tmpdir(), 'bathyscope-'));
  private readonly demo = path.join(this.data, 'demo');
  private starter: ChildProcess | null = null;
  private port = 0;
  said = '';
  private readonly env: Record<string, string>;

  /** @param env settings of the installation beside those of all tests */
  constructor(env: Record<string, string> = {}) {
    this.env = env;
    // PostgreSQL's own user must be able to walk through it.
    fs.chmodSync(this.data, 0o755);
    // One model is there; nobody waits for the larger ones.
    fs.mkdirSync(this.demo);
    fs.copyFileSync(path.join(root, 'demo/models', DEMO), path.join(this.demo, DEMO));
  }

  /** Without a slash at its end. */
  get address(): string {
    return `http://127.0.0.1:${this.port}${(this.env['BATHYSCOPE_BASE'] ?? '/').slice(0, -1)}`;
  }

  async start(): Promise<void> {
    this.port ||= await freePort();
    this.said = '';
    const { DATABASE_URL: _, ...env } = process.env;
    this.starter = spawn(path.join(root, 'bin/start'), {
      cwd: root,
      detached: true,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: {
        ...env,
        BATHYSCOPE_DATA: this.data,
        BATHYSCOPE_DEMO: this.demo,
        PORT: String(this.port),
        BATHYSCOPE_WORKERS: '2',
        BATHYSCOPE_SILENCE_S: '30',
        ...this.env,
      },
    });
    for (const stream of [this.starter.stdout!, this.starter.stderr!])
      stream.on('data', (d: Buffer) => (this.said += d.toString()));
    let ended: number | null | undefined;
    this.starter.once('exit', (code) => (ended = code));
    await this.until(async () => {
      if (ended !== undefined) return true;
      return this.said.includes('Bathyscope is ready') && (await this.get('/models')).status === 200;
    }, 'it answers');
    if (ended !== undefined)
      throw new Error(`bin/start has ended with ${ended}. Said last:\n${this.said.slice(-2000)}`);
  }

  /** As Ctrl+C: the signal goes to every process of the group. @returns ms until all had ended */
  async interrupt(): Promise<number> {
    const began = Date.now();
    const starter = this.starter!;
    const ended = new Promise((done) => starter.once('exit', done));
    process.kill(-starter.pid!, 'SIGINT');
    await ended;
    await this.until(
      () =>
        Promise.resolve(
          this.pids('main.js').length + this.pids('worker.js').length + this.pids('postgres').length === 0,
        ),
      'all has ended',
    );
    return Date.now() - began;
  }

  /** Only bin/start itself is gone; what it started stays. */
  async killStarter(): Promise<void> {
    const starter = this.starter!;
    const ended = new Promise((done) => starter.once('exit', done));
    process.kill(starter.pid!, 'SIGKILL');
    await ended;
  }

  /** Processes of this instance: the web server, the workers, or the master of the database. */
  pids(what: 'main.js' | 'worker.js' | 'postgres'): number[] {
    const supervisor = Number(read(path.join(this.data, 'supervisor.pid')) || -1);
    const port = read(path.join(this.data, 'database.port'));
    return fs
      .readdirSync('/proc')
      .filter((p) => /^\d+$/.test(p))
      .map(Number)
      .filter((pid) => {
        const command = read(`/proc/${pid}/cmdline`).replaceAll('\0', ' ');
        if (what === 'postgres') return / -D .*\/cluster /.test(command) && command.includes(`-p ${port} `);
        return (
          command.includes(`dist/${what}`) &&
          Number(/^PPid:\s+(\d+)/m.exec(read(`/proc/${pid}/status`))?.[1]) === supervisor
        );
      });
  }

  /** Processes of the questions, of any instance of this folder, whose web server is gone. */
  strays(): number[] {
    const main = path.join(root, 'apps/server/dist/kernel/question-main.js');
    return fs
      .readdirSync('/proc')
      .filter((p) => /^\d+$/.test(p) && read(`/proc/${p}/cmdline`).includes(main))
      .filter(
        (p) =>
          !read(`/proc/${/^PPid:\s+(\d+)/m.exec(read(`/proc/${p}/status`))?.[1]}/cmdline`).includes(
            'dist/main.js',
          ),
      )
      .map(Number);
  }

  /** Ends one process at once, and waits until one like it is there again. */
  async kill(what: 'main.js' | 'worker.js' | 'postgres', random: () => number): Promise<void> {
    const running = this.pids(what);
    const victim = running[Math.floor(random() * running.length)];
    if (!victim) return this.until(() => Promise.resolve(this.pids(what).length > 0), `${what} is there`);
    process.kill(victim, 'SIGKILL');
    await this.until(
      () => Promise.resolve(this.pids(what).some((p) => p !== victim && !running.includes(p))),
      `${what} is there again`,
    );
  }

  async until(condition: () => Promise<boolean>, what: string, seconds = PATIENCE_S): Promise<void> {
    const end = Date.now() + 1000 * seconds;
    while (!(await condition().catch(() => false))) {
      if (Date.now() > end)
        throw new Error(`It is never so that ${what}. Said last:\n${this.said.slice(-2000)}`);
      await wait(50);
    }
  }

  /** @returns what a promise gives that has no end of its own */
  async within<T>(what: string, work: Promise<T>): Promise<T> {
    let timer: NodeJS.Timeout | undefined;
    const end = new Promise<never>((_, reject) => {
      timer = setTimeout(() => reject(new Error(`There is no end to this: ${what}.`)), 1000 * PATIENCE_S);
    });
    return Promise.race([work, end]).finally(() => clearTimeout(timer));
  }

  async get<T = unknown>(url: string): Promise<{ status: number; body: T }> {
    try {
      const response = await fetch(`${this.address}/api${url}`, {
        signal: AbortSignal.timeout(1000 * PATIENCE_S),
      });
      return {
        status: response.status,
        body: (response.headers.get('content-type')?.includes('json')
          ? await response.json()
          : await response.arrayBuffer()) as T,
      };
    } catch {
      return { status: 0, body: undefined as T };
    }
  }

  async upload(name: string, text: string): Promise<Answer> {
    const form = new FormData();
    form.append('file', new Blob([new Uint8Array(Buffer.from(text, 'latin1'))]), name);
    try {
      const response = await fetch(`${this.address}/api/models`, {
        method: 'POST',
        body: form,
        signal: AbortSignal.timeout(1000 * PATIENCE_S),
      });
      return { status: response.status, body: (await response.json()) as Answer['body'] };
    } catch {
      return { status: 0, body: {} as Answer['body'] };
    }
  }

  /** All of it at once, as when the machine goes off; a database of another's stays. */
  killAll(): void {
    process.kill(-this.starter!.pid!, 'SIGKILL');
  }

  /** Where its database is. */
  databaseUrl(): string {
    const home = [
      path.join(this.data, 'database'),
      ...(fs.existsSync('/var/lib/bathyscope')
        ? fs.readdirSync('/var/lib/bathyscope').map((f) => `/var/lib/bathyscope/${f}`)
        : []),
    ].find((h) => read(path.join(h, 'password')) && fs.existsSync(path.join(h, 'cluster')))!;
    return `postgres://bathyscope:${read(path.join(home, 'password'))}@127.0.0.1:${read(path.join(this.data, 'database.port'))}/postgres`;
  }

  /** A connection to its database. */
  async database<T>(work: (knex: Knex) => Promise<T>): Promise<T> {
    const knex = knexFactory({ client: 'pg', connection: this.databaseUrl() });
    try {
      return await work(knex);
    } finally {
      await knex.destroy();
    }
  }

  remove(): void {
    fs.rmSync(this.data, { recursive: true, force: true });
  }
}

function read(file: string): string {
  try {
    return fs.readFileSync(file, 'utf8').trim();
  } catch {
    return '';
  }
}
