import type { JobView } from '@bathyscope/contracts';
import { publicFile, Running, seeded, SOAK } from './running.ts';

/*
 * Files that are nearly right: the kernel reads them, refuses them or crashes over them,
 * and nothing else happens.
 */

jest.setTimeout(SOAK * 900_000);

const random = seeded(460_046);
const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)];
const BASES = ['cube-mm.step', 'cube-in.step', 'rounded-cube.step', 'conical-surface.step'].map(publicFile);

const running = new Running();
beforeAll(() => running.start());
afterAll(async () => {
  await running.interrupt().catch(() => {});
  running.remove();
});

const NUMBERS = [
  '0.',
  '-1.',
  '1.E308',
  '1.E-320',
  'NAN',
  '-0.',
  '1E',
  '99999999999999999999',
  '$',
  '*',
  "'x'",
];

/** One thing in the data of a file changed. */
const MUTATIONS: ((text: string) => string)[] = [
  // A number that is another.
  (t) => replaceOne(t, /-?\d+\.\d*(E[-+]?\d+)?/g, () => pick(NUMBERS)),
  // A reference that leads elsewhere, nowhere, or back to where it stands.
  (t) => replaceOne(t, /(?<=[(,])#\d+/g, () => `#${Math.floor(random() * 400)}`),
  (t) => replaceOne(t, /(#\d+)(\s*=\s*[A-Z_]+\s*\([^;]*?)#\d+/g, (_, id, rest) => `${id}${rest}${id}`),
  // A statement gone, doubled, or cut short.
  (t) => replaceOne(t, /#\d+\s*=[^;]*;/g, () => ''),
  (t) => replaceOne(t, /#\d+\s*=[^;]*;/g, (s) => s + s),
  (t) => replaceOne(t, /#\d+\s*=[^;]*;/g, (s) => `${s.slice(0, Math.floor(s.length / 2))};`),
  // One type taken for another.
  (t) =>
    replaceOne(
      t,
      /\b(PLANE|CYLINDRICAL_SURFACE|CIRCLE|LINE|ADVANCED_FACE|CLOSED_SHELL|EDGE_CURVE|ORIENTED_EDGE|VERTEX_POINT|CARTESIAN_POINT|DIRECTION)\b/g,
      () =>
        pick([
          'PLANE',
          'CIRCLE',
          'LINE',
          'DIRECTION',
          'CLOSED_SHELL',
          'SPHERICAL_SURFACE',
          'OPEN_SHELL',
          'NOTHING_AT_ALL',
        ]),
    ),
  // Any byte.
  (t) => {
    const at = Math.floor(random() * (t.length - 200)) + 50;
    return t.slice(0, at) + String.fromCharCode(Math.floor(random() * 256)) + t.slice(at + 1);
  },
  // A flag turned round.
  (t) => replaceOne(t, /\.[TF]\./g, (s) => (s === '.T.' ? '.F.' : '.T.')),
  // A list without its last.
  (t) => replaceOne(t, /,#\d+\)/g, () => ')'),
];

function replaceOne(text: string, pattern: RegExp, by: (...match: string[]) => string): string {
  const data = text.indexOf('DATA;');
  const found = [...text.matchAll(pattern)].filter((m) => m.index! > data);
  if (!found.length) return text;
  const m = pick(found);
  return text.slice(0, m.index) + by(...m) + text.slice(m.index! + m[0].length);
}

test('200 mutated files: each becomes a model or is refused in words for people, and no process ends', async () => {
  await running.until(
    async () => (await running.get<JobView[]>('/jobs')).body.length === 0,
    'the demo is converted',
  );
  const before = [...running.pids('main.js'), ...running.pids('worker.js')];
  const jobs = new Map<string, string>();
  for (let i = 0; i < 200 * SOAK; i++) {
    const mutation = i % MUTATIONS.length;
    let text = pick(BASES);
    for (let n = 0; n <= i % 3; n++) text = MUTATIONS[mutation](text);
    const { status, body } = await running.upload(
      `Mutated ${i}.step`,
      text.replace('END-ISO-10303-21;', `/* ${i} */\nEND-ISO-10303-21;`),
    );
    expect([201, 422]).toContain(status);
    if (status === 201 && body.job) jobs.set(body.job.id, `mutation ${mutation} of file ${i}`);
  }
  await running.until(
    async () => (await running.get<JobView[]>('/jobs')).body.every((j) => j.state === 'failed'),
    'every job has ended',
    600,
  );
  for (const job of (await running.get<JobView[]>('/jobs')).body) {
    expect([jobs.get(job.id), job.problem?.detail]).toEqual([
      expect.any(String),
      expect.stringMatching(/^[A-Z].*\.$/s),
    ]);
    expect(job.problem!.detail).not.toMatch(
      /null|undefined|exception|\(\d{4,}\)|unreachable|0x|Standard_|TopoDS|memory access/,
    );
  }
  expect([...running.pids('main.js'), ...running.pids('worker.js')]).toEqual(before);
  // The next file is as welcome as the first.
  const { body } = await running.upload(
    'Good.step',
    BASES[0].replace('END-ISO-10303-21;', '/* good */\nEND-ISO-10303-21;'),
  );
  await running.until(
    async () => (await running.get<{ state: string }>(`/models/${body.model.id}`)).body.state === 'ready',
    'the good file is there',
  );
});
