import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import type { KeptRecord, ModelDetail, ModelListItem } from '@bathyscope/contracts';
import { publicFile, Running, wait } from './running.ts';

/*
 * A disk that is really full: a small one in memory, which takes the right to mount it; bin/test leaves this
 * out where there is none.
 */

jest.setTimeout(600_000);

const running = new Running();
const cube = publicFile('cube-mm.step');
const ballast = path.join(running.data, 'ballast');

beforeAll(
  () => void execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=600m,mode=755', 'tmpfs', running.data]),
);

afterAll(async () => {
  fs.rmSync(ballast, { force: true });
  await running.interrupt().catch(() => {});
  execFileSync('umount', ['-l', running.data]);
  running.remove();
});

/** Fills the disk to its last byte. */
function fill(): void {
  const file = fs.openSync(ballast, 'a');
  for (const size of [1024 * 1024, 4096, 1])
    try {
      for (;;) fs.writeSync(file, Buffer.alloc(size));
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'ENOSPC') throw error;
    }
  fs.closeSync(file);
}

test('a full disk loses nothing that was kept, is said as such, and is over when there is room', async () => {
  await running.start();
  await running.until(
    async () => (await running.get<ModelListItem[]>('/models')).body.every((m) => m.state === 'ready'),
    'the demo is converted',
  );
  const { body } = await running.upload('Before.stp', cube);
  const model = body.model.id;
  await running.until(
    async () => (await running.get<ModelDetail>(`/models/${model}`)).body.state === 'ready',
    'it is converted',
  );
  const keep = async (id: string, name: string) => {
    const answer = await fetch(`${running.address}/api/models/${model}/records/${id}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({
        kind: 'kept-weight',
        version: 1,
        document: { name, mass: 1, centreOfGravity: [0, 0, 0], revision: 1 },
      }),
      signal: AbortSignal.timeout(60_000),
    }).catch(() => null);
    return { status: answer?.status ?? 0, text: (await answer?.text()) ?? '' };
  };
  const acknowledged = new Map<string, string>();
  const one = randomUUID();
  expect((await keep(one, 'Before it was full')).status).toBe(200);
  acknowledged.set(one, 'Before it was full');

  fill();
  const large = cube.replace('DATA;', `DATA;${'\n'.repeat(8 * 1024 * 1024)}`);
  const refused = await running.upload('No room.stp', large);
  expect([507, 503, 0]).toContain(refused.status);
  if (refused.status === 507) expect(refused.body.detail).toMatch(/disk of the server is full/i);
  // Whatever becomes of each: what is acknowledged has to be there afterwards.
  for (let i = 0; i < 200; i++) {
    const id = randomUUID();
    const { status, text } = await keep(id, `Kept ${i} ${'x'.repeat(150)}`);
    if (status === 200) acknowledged.set(id, `Kept ${i}`);
    else {
      expect([507, 503]).toContain(status);
      expect(text).toMatch(/detail/);
      break;
    }
  }
  process.stdout.write(
    `${acknowledged.size} records were acknowledged, the last of them on the full disk.\n`,
  );
  await wait(30_000);
  fs.rmSync(ballast);
  await running.until(async () => (await running.get('/models')).status === 200, 'it answers again');
  const records = (await running.get<KeptRecord[]>(`/models/${model}/records`)).body;
  for (const [id, name] of acknowledged)
    expect(records.find((r) => r.id === id)?.document['name']).toContain(name);
  const after = await running.upload('After.stp', large);
  expect(after.status).toBe(201);
  await running.until(
    async () => (await running.get<ModelDetail>(`/models/${after.body.model.id}`)).body.state === 'ready',
    'it is converted',
  );
  expect((await keep(randomUUID(), 'After')).status).toBe(200);
});
