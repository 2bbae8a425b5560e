import fs from 'node:fs';
import net from 'node:net';
import os from 'node:os';
import path from 'node:path';
import { copyOf, freshDatabase, ORPHANS, publicFile, TestServer } from '../testing/test-server.ts';
import { DemoService } from './demo.service.ts';
import { safeFileName } from './uploads.service.ts';
import { Garbage } from '../worker/garbage.ts';
import { UploadSlots } from './upload-slots.ts';

const cube = publicFile('cube-mm.step');
let server: TestServer;

beforeAll(async () => {
  await freshDatabase('uploads_test');
  process.env['BATHYSCOPE_UPLOAD_IDLE_S'] = '2';
  server = await TestServer.start();
});
afterAll(() => server.close());

const rows = async () =>
  (
    await server.sql<{ blob: number; chunk: number; model: number }>(
      'select (select count(*)::int from blob) as blob, (select count(*)::int from blob_chunk) as chunk, (select count(*)::int from model) as model',
    )
  )[0];

/** The head of an upload and the start of its only file. */
const head = (length: number, more = ''): string =>
  `POST /api/models HTTP/1.1\r\nHost: localhost\r\nContent-Type: multipart/form-data; boundary=b\r\nContent-Length: ${length}\r\n${more}\r\n`;
const PART = '--b\r\nContent-Disposition: form-data; name="file"; filename="a.step"\r\n\r\n';

describe('multipart bodies of every shape get an answer in the range of 400, leave nothing, and end nothing', () => {
  const body = (text: string) => head(Buffer.byteLength(text, 'latin1')) + text;
  const CASES: [string, string][] = [
    ['no closing boundary', body(`${PART}ISO-10303-21;`)],
    ['nothing but the start of a boundary', body('--b')],
    ['an empty body', body('')],
    ['a part without headers', body('--b\r\n\r\n\r\n--b--')],
    [
      'a part without a file name',
      body('--b\r\nContent-Disposition: form-data; name="file"\r\n\r\nx\r\n--b--'),
    ],
    [
      'an empty file name',
      body('--b\r\nContent-Disposition: form-data; name="file"; filename=""\r\n\r\nx\r\n--b--'),
    ],
    [
      'another boundary than stated',
      body('--c\r\nContent-Disposition: form-data; name="file"; filename="a.step"\r\n\r\nx\r\n--c--'),
    ],
    ['headers without end', body(`--b\r\n${'X: y\r\n'.repeat(5000)}`)],
    [
      'no boundary at all',
      'POST /api/models HTTP/1.1\r\nHost: localhost\r\nContent-Type: multipart/form-data\r\nContent-Length: 3\r\n\r\nabc',
    ],
    [
      'another type',
      'POST /api/models HTTP/1.1\r\nHost: localhost\r\nContent-Type: text/plain\r\nContent-Length: 3\r\n\r\nabc',
    ],
    ['no type and no body', 'POST /api/models HTTP/1.1\r\nHost: localhost\r\nContent-Length: 0\r\n\r\n'],
    ['a wrong end in the middle of a file', body(`${PART}ISO-10303-21;\r\n--b-\r\nmore`)],
    [
      'a chunked body that ends early',
      `POST /api/models HTTP/1.1\r\nHost: localhost\r\nContent-Type: multipart/form-data; boundary=b\r\nTransfer-Encoding: chunked\r\n\r\n${PART.length.toString(16)}\r\n${PART}\r\n0\r\n\r\n`,
    ],
    [
      'chunks that are none',
      `POST /api/models HTTP/1.1\r\nHost: localhost\r\nContent-Type: multipart/form-data; boundary=b\r\nTransfer-Encoding: chunked\r\n\r\nzzz\r\n`,
    ],
  ];
  test.each(CASES)('%s', async (_, request) => {
    const before = await rows();
    expect(await server.raw(request)).toMatch(/^HTTP\/1\.1 4\d\d /);
    expect((await server.send('GET', '/models')).status).toBe(200);
    expect(await rows()).toEqual(before);
  });
});

test('uploads broken off after 0 to 20 ms, by a page of this site or another, leave nothing and end nothing', async () => {
  const before = await rows();
  for (let ms = 0; ms <= 20; ms += 2)
    for (const origin of ['', 'Origin: http://elsewhere.example\r\n'])
      await server.raw(head(1e6, origin) + PART + 'ISO-10303-21;'.repeat(100), { breakAfter: ms });
  expect((await server.upload('Whole.step', copyOf(cube, 'whole'))).status).toBe(201);
  for (let i = 0; i < 3000 && (await rows()).blob > before.blob + 1; i++)
    await new Promise((r) => setTimeout(r, 20));
  expect(await rows()).toMatchObject({ blob: before.blob + 1, model: before.model + 1 });
});

test('equal bytes sent at the same moment are one model', async () => {
  const bytes = copyOf(cube, 'twins');
  const answers = await Promise.all(
    Array.from({ length: 6 }, (_, i) => server.upload(`Twin ${i}.step`, bytes)),
  );
  expect(answers.map((a) => a.status)).toEqual([201, 201, 201, 201, 201, 201]);
  expect(new Set(answers.map((a) => a.body.model.id)).size).toBe(1);
  expect(answers.filter((a) => !a.body.duplicate)).toHaveLength(1);
  await server.until(answers.find((a) => a.body.job)!.body.job!.id, ['done']);
  expect(
    (await server.sql<{ what: string; n: number }>(ORPHANS)).filter(
      (o) => o.n > 0 && o.what !== 'queue' && o.what !== 'converting',
    ),
  ).toEqual([]);
});

test('two files in one request are both taken; one that is none is told, and does not take the other with it', async () => {
  const both = await server.upload('Pair.step', copyOf(cube, 'a'), copyOf(cube, 'b'));
  expect(both).toMatchObject({
    status: 201,
    body: { model: { name: 'Pair' }, others: [{ model: { name: '1 Pair' }, duplicate: false }] },
  });
  const one = await server.upload('Half.step', Buffer.from('Dear colleague'), copyOf(cube, 'c'));
  expect(one).toMatchObject({
    status: 201,
    body: {
      model: { name: '1 Half' },
      others: [{ refused: { detail: expect.stringMatching(/Half.step.*not a STEP file/) } }],
    },
  });
});

test('idle uploads stop neither the API nor other uploads, and are given up', async () => {
  const idle = Array.from({ length: 7 }, () => server.raw(head(1e6) + PART + 'ISO'));
  await new Promise((r) => setTimeout(r, 300));
  expect((await server.send('GET', '/models')).status).toBe(200);
  expect((await server.upload('Meanwhile.step', copyOf(cube, 'meanwhile'))).status).toBe(201);
  const before = await rows();
  expect((await Promise.all(idle)).every((a) => a.startsWith('HTTP/1.1 408'))).toBe(true);
  expect((await rows()).blob).toBe(before.blob - 7);
});

test('so many at once, by one and in all; more wait in their turn; too many are told to come again', async () => {
  const slots = new UploadSlots({ each: 1, all: 2, open: 2, waitingEach: 2, waiting: 2 });
  const never = new AbortController().signal;
  const first = await slots.take('a', never);
  const order: string[] = [];
  const waiting = slots.take('a', never).then((slot) => (order.push('a'), slot));
  const other = await slots.take('b', never);
  const gone = new AbortController();
  const left = slots.take('c', gone.signal);
  await expect(slots.take('d', never)).rejects.toMatchObject({ problem: { status: 429 } });
  gone.abort();
  await expect(left).rejects.toThrow();
  first.release();
  first.release();
  const second = await waiting;
  second.release();
  other.release();
  expect(order).toEqual(['a']);
  (await slots.take('a', never)).release();
});

test('whoever only trickles takes nobody’s place, and counts again when more comes', async () => {
  const slots = new UploadSlots({ each: 4, all: 2, open: 5, waitingEach: 9, waiting: 9 }, 20);
  const never = new AbortController().signal;
  const trickling = [await slots.take('a', never), await slots.take('b', never)];
  // Neither brings anything: who comes next waits for one look, and not for them.
  const third = await slots.take('c', never);
  const bringing = setInterval(() => [...trickling, third].forEach((slot) => slot.moved(1e6)), 1);
  await new Promise((r) => setTimeout(r, 60));
  const left = new AbortController();
  const waiting = slots.take('d', left.signal);
  await new Promise((r) => setTimeout(r, 60));
  left.abort();
  await expect(waiting).rejects.toThrow();
  clearInterval(bringing);
  await new Promise((r) => setTimeout(r, 60));
  // However little they bring, there is an end to how many are open.
  const more = [await slots.take('d', never), await slots.take('d', never)];
  const last = new AbortController();
  const refused = slots.take('e', last.signal);
  await new Promise((r) => setTimeout(r, 60));
  last.abort();
  await expect(refused).rejects.toThrow();
  for (const slot of [...trickling, third, ...more]) slot.release();
});

test('who sends a hundred files takes neither the places that others wait in nor their turn', async () => {
  const slots = new UploadSlots({ each: 2, all: 2, open: 2, waitingEach: 3, waiting: 10 });
  const never = new AbortController().signal;
  const running = [await slots.take('many', never), await slots.take('many', never)];
  const order: string[] = [];
  const wait = (sender: string) =>
    slots.take(sender, never).then((slot) => (order.push(sender), running.push(slot)));
  const waiting = ['many', 'many', 'many', 'one'].map(wait);
  await expect(slots.take('many', never)).rejects.toMatchObject({ problem: { status: 429 } });
  while (running.length) {
    running.shift()!.release();
    await new Promise((r) => setTimeout(r));
  }
  await Promise.all(waiting);
  expect(order).toEqual(['one', 'many', 'many', 'many']);
});

test('bytes of uploads that a killed server left behind wait an hour, and go then; those of a model stay', async () => {
  await server.open('Stays.stp', copyOf(cube, 'stays'));
  const before = await rows();
  for (let i = 0; i < 11; i++)
    await server.sql(
      `with made as (insert into blob (touched_at) values (now() - make_interval(mins => $1)) returning id)
       insert into blob_chunk (blob_id, position, bytes) select id, 0, 'broken off' from made`,
      [i < 5 ? 61 : 59],
    );
  await server.worker.get(Garbage).collect();
  expect((await rows()).blob).toBe(before.blob + 6);
  await server.sql(`update blob set touched_at = now() - interval '61 minutes'`);
  await server.worker.get(Garbage).collect();
  expect(await rows()).toEqual(before);
});

test('a slow upload takes as long as it takes', async () => {
  const bytes = copyOf(cube, 'slow').toString('latin1');
  const text = `${PART}${bytes}\r\n--b--\r\n`;
  const answer = await new Promise<string>((resolve) => {
    const socket = net.connect(Number(new URL(server.address).port), '127.0.0.1');
    let said = '';
    socket
      .on('data', (d: Buffer) => {
        said += d.toString('latin1');
        if (said.includes('\r\n\r\n')) socket.destroy();
      })
      .on('close', () => resolve(said));
    socket.write(head(text.length));
    // Three times as long as an idle one would be waited for.
    const step = Math.ceil(text.length / 12);
    for (let i = 0; i < 12; i++)
      setTimeout(() => socket.write(text.slice(i * step, (i + 1) * step), 'latin1'), i * 500);
  });
  expect(answer).toMatch(/^HTTP\/1\.1 201/);
});

test('a full disk is told as such, nothing of the upload stays, reading goes on, and so does uploading when there is room', async () => {
  const before = await rows();
  await server.sql(`create function no_room() returns trigger language plpgsql as $$ begin raise exception 'could not extend file: No space left on device' using errcode = '53100'; end $$;
    create trigger no_room before insert on blob_chunk execute function no_room()`);
  const refused = await server.upload('Big.step', copyOf(cube, 'big'));
  expect(refused).toMatchObject({
    status: 507,
    body: { detail: expect.stringContaining('The disk of the server is full') },
  });
  expect((await server.send('GET', '/models')).status).toBe(200);
  await server.sql('drop trigger no_room on blob_chunk; drop function no_room');
  expect(await rows()).toEqual(before);
  expect((await server.upload('Big.step', copyOf(cube, 'big'))).status).toBe(201);
});

test('a name is only a name', () => {
  expect(safeFileName('../../etc/..\\passwd.step')).toBe('passwd.step');
  expect(safeFileName('a\u0000b\u001f.step')).toBe('ab.step');
  expect(safeFileName('...')).toBe('Unnamed.step');
  expect(safeFileName(undefined)).toBe('Unnamed.step');
  expect(safeFileName(`${'𝔸'.repeat(300)}.step`)).toMatch(/^𝔸+\.step$/u);
});

test('each demo file is loaded once; a newer one is the next revision of its model, and none where that was taken off the shelf', async () => {
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'demo-'));
  const demo = server.app.get(DemoService) as unknown as { load(folder: string): Promise<void> };
  const write = (name: string, version: string) =>
    fs.writeFileSync(path.join(folder, name), copyOf(cube, `${name} ${version}`));
  const revisions = async () =>
    (
      await server.sql<{ line: string }>(
        `select file_name || ' ' || revision as line from revision where file_name like 'Demo %' order by file_name, revision`,
      )
    ).map(({ line }) => line);
  try {
    write('Demo a.step', 'first');
    write('Demo b.step', 'first');
    await demo.load(folder);
    await demo.load(folder);
    expect(await revisions()).toEqual(['Demo a.step 1', 'Demo b.step 1']);
    await server.sql(
      `update model set deleted_at = now() where id = (select model_id from revision where file_name = 'Demo b.step')`,
    );
    write('Demo a.step', 'second');
    write('Demo b.step', 'second');
    await demo.load(folder);
    await demo.load(folder);
    expect(await revisions()).toEqual(['Demo a.step 1', 'Demo a.step 2', 'Demo b.step 1']);
    // What was loaded before hashes were kept is known by its bytes.
    await server.sql(`update setting set value = '["Demo a.step", "Demo b.step"]' where key = 'demo-loaded'`);
    await demo.load(folder);
    expect(await revisions()).toHaveLength(3);
  } finally {
    fs.rmSync(folder, { recursive: true });
  }
});
