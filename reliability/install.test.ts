import { spawn, type ChildProcess } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { wait } from './running.ts';

const root = fileURLToPath(new URL('..', import.meta.url));

/*
 * Two commands in one folder at once, and one after another was killed: what npm
 * writes never has two writers.
 */

let folder: string;
const log = () => path.join(folder, 'log');
const said = () => (fs.existsSync(log()) ? fs.readFileSync(log(), 'utf8').trim().split('\n') : []);
const ended = (child: ChildProcess) => new Promise<number | null>((done) => child.once('exit', done));

/** The scripts, with an npm that takes a second, and says when it begins and ends. */
function run(): ChildProcess {
  const command = 'source scripts/common.sh; need_npm';
  return spawn('bash', ['-c', command], {
    cwd: folder,
    env: { ...process.env, LOG: log(), PATH: `${folder}/bin:${process.env['PATH']}` },
    stdio: 'ignore',
  });
}

beforeEach(() => {
  folder = fs.mkdtempSync(path.join(os.tmpdir(), 'bathyscope-install-'));
  for (const name of ['bin', 'scripts', 'node_modules']) fs.mkdirSync(path.join(folder, name));
  fs.copyFileSync(path.join(root, 'scripts/common.sh'), path.join(folder, 'scripts/common.sh'));
  fs.writeFileSync(path.join(folder, 'package-lock.json'), '{}');
  fs.writeFileSync(
    path.join(folder, 'bin/npm'),
    '#!/bin/bash\necho begin >>"$LOG"\nsleep 1\necho end >>"$LOG"\n',
    { mode: 0o755 },
  );
});
afterEach(() => fs.rmSync(folder, { recursive: true, force: true }));

test('of two that start at once one installs, and the other waits and finds it done', async () => {
  expect(await Promise.all([run(), run()].map(ended))).toEqual([0, 0]);
  expect(said()).toEqual(['begin', 'end']);
});

test('one that follows a killed one waits for what that left running', async () => {
  const first = run();
  while (!said().length) await wait(20);
  first.kill('SIGKILL');
  expect(await ended(run())).toBe(0);
  expect(said()).toEqual(['begin', 'end']);
});
