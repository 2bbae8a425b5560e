/*
 * Keeps the processes of Bathyscope running: the web server (unless WEB=0) and BATHYSCOPE_WORKERS workers.
 * One that ends is started again, at once at first, then after a growing pause; when that does not help, it
 * is said and all ends.
 */
import { spawn } from 'node:child_process';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const dist = path.join(path.dirname(path.dirname(fileURLToPath(import.meta.url))), 'apps/server/dist');
const workers = Number(process.env.BATHYSCOPE_WORKERS || Math.max(1, os.availableParallelism() - 1));
const HOPELESS = 78;
const LONG_LIFE = 10_000;
/** Restarts in a row without a pause before them. */
const AT_ONCE = 5;
const LONGEST_PAUSE = 5000;
const MOST_RESTARTS = 30;
/**
 * ms. Longer than the processes give themselves, shorter than the three seconds in
 * which everything is to end.
 */
const PATIENCE = 1900;

const children = new Map();
let ending = false;

function start(name, script, restarts = 0) {
  if (ending) return;
  const child = spawn(process.execPath, [path.join(dist, script)], {
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    env: process.env,
  });
  const born = Date.now();
  children.set(name, child);
  child.on('exit', (code, signal) => {
    children.delete(name);
    if (ending) return;
    if (code === HOPELESS) return void end(1);
    const again = Date.now() - born > LONG_LIFE ? 1 : restarts + 1;
    const why = signal ? `was ended by ${signal}` : `ended with code ${code}`;
    if (again > MOST_RESTARTS) {
      console.error(
        `The ${name} ${why} ${again} times in a row. Bathyscope gives up; the lines above may say why.`,
      );
      return void end(1);
    }
    const pause = again <= AT_ONCE ? 0 : Math.min(LONGEST_PAUSE, 100 * 2 ** Math.min(again - AT_ONCE, 10));
    console.error(`The ${name} ${why}; it is started again.`);
    setTimeout(() => start(name, script, again), pause);
  });
}

async function end(code) {
  if (ending) return;
  ending = true;
  const running = [...children.values()];
  const gone = running.map(
    (c) =>
      new Promise((done) => (c.exitCode === null && c.signalCode === null ? c.once('exit', done) : done())),
  );
  for (const c of running) c.kill('SIGTERM');
  const timer = setTimeout(() => running.forEach((c) => c.kill('SIGKILL')), PATIENCE);
  await Promise.all(gone);
  clearTimeout(timer);
  process.exit(code);
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void end(0));
process.stdout.on('error', () => {});
process.stderr.on('error', () => {});

if (process.env.WEB !== '0') start('web server', 'main.js');
for (let i = 1; i <= workers; i++) start(`worker ${i}`, 'worker.js');
