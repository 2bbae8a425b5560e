import { Logger } from '@nestjs/common';
import fs from 'node:fs';
import pg from 'pg';
import type { KeptRecord } from '@bathyscope/contracts';
import { freshDatabase, TestServer } from '../testing/test-server.ts';
import { lifted, RECORD_KINDS } from '@bathyscope/contracts/records';
import { readReference } from '@bathyscope/core/references';
import { v3 } from 'uuid';
import { prepareDatabase } from './prepare-database.ts';
import { RUNNING, RunningMark } from './running-mark.ts';
import { INSTALLATION, migrationSource } from './migrations.ts';

let client: pg.Client;
beforeEach(async () => {
  await freshDatabase('migrations_test');
  client = new pg.Client({ connectionString: process.env['DATABASE_URL'] });
  await client.connect();
});
afterEach(() => client.end());

const migrate = async (from: number, to: number) => {
  const all = await migrationSource.getMigrations([]);
  for (const { file } of all.slice(from, to)) await client.query(fs.readFileSync(file, 'utf8'));
};
const rows = async <T>(sql: string): Promise<T[]> => (await client.query(sql)).rows as T[];

test('what was kept before there were profiles is kept: settings and last states wait for a browser, the rest is the model’s', async () => {
  const all = await migrationSource.getMigrations([]);
  const profiles = all.findIndex((m) => m.name.includes('profiles'));
  await migrate(0, profiles);
  const [{ id }] = await rows<{ id: string }>(
    `insert into model (owner_id, name) values ('${INSTALLATION}', 'Valve') returning id`,
  );
  const of = `'${INSTALLATION}', '${id}'`;
  await client.query(
    `insert into user_setting (owner_id, document) values ('${INSTALLATION}', '{"theme": "abyss"}')`,
  );
  await client.query(
    `insert into view_state (owner_id, model_id, revision, kind, document) values (${of}, 1, 'last', '{"version": 3}')`,
  );
  await client.query(
    `insert into model_preference (owner_id, model_id, document) values (${of}, '{"upAxis": "y"}')`,
  );
  await client.query(
    `insert into saved_view (owner_id, model_id, revision, name, thumbnail, position, slot, document) values (${of}, 1, 'A', 'png', 1, 3, '{"version": 3}')`,
  );

  await migrate(profiles, all.length);
  const [waiting, ...more] = await rows<{ id: string; token_hash: null }>(
    `select * from owner where id <> '${INSTALLATION}'`,
  );
  expect([more, waiting.token_hash]).toEqual([[], null]);
  expect(await rows('select owner_id, document from user_setting')).toEqual([
    { owner_id: waiting.id, document: { theme: 'abyss' } },
  ]);
  expect(await rows('select owner_id, document from view_state')).toEqual([
    { owner_id: waiting.id, document: { version: 3 } },
  ]);
  const recall = { camera: true, projection: true, visibility: true, style: true, section: true };
  const view = { name: 'A', slot: 3, recall, state: { version: 3 }, revision: 1 };
  expect(await rows('select kind, document from record order by kind')).toEqual([
    { kind: 'saved-view', document: view },
    { kind: 'up-axis', document: { axis: 'y' } },
  ]);
  expect(RECORD_KINDS.get('saved-view')!.read(view)).toEqual(view);
  expect(await rows(`select encode(picture, 'escape') as picture from record_picture`)).toEqual([
    { picture: 'png' },
  ]);
});

test('what was kept of a model in one document is kept as records: each of its kind, in its order, what nobody knows under its own name', async () => {
  const all = await migrationSource.getMigrations([]);
  const records = all.findIndex((m) => m.name.includes('records'));
  await migrate(0, records);
  const [{ id }] = await rows<{ id: string }>(
    `insert into model (owner_id, name, revision) values ('${INSTALLATION}', 'Valve', 2) returning id`,
  );
  const face = { kind: 'face', component: './1', index: 3 };
  const named = '7a1f6f0e-7c55-4d6e-9a6d-3f1a2b4c5d6e';
  const document = {
    upAxis: 'y',
    home: { version: 3, camera: { target: [1, 2, 3], orientation: [0, 0, 0, 1], height: 50 } },
    homeFramesVisible: false,
    names: { './1': 'Spindle', 'Valve/toString': 'Cap' },
    pickSets: [
      { id: named, name: 'Bores', items: [face], later: 1 },
      { id: 'no uuid', name: 'Rims', items: [] },
    ],
    sections: [{ id: 'a', name: 'Middle', section: { planes: [] }, whole: ['Valve/1'] }],
    accepted: [
      { id: 'a', a: { kind: 'component', component: '0' }, b: { kind: 'component', component: '1' } },
    ],
    systems: [{ id: 'a', name: 'Flange', of: [face] }],
    materials: { 'part one': 'steel', prototype: 'brass' },
    componentMaterials: { '0/1': 'steel' },
    typedMasses: { 'part two': { kg: 2.5, at: [1, 2, 3] } },
    sealed: [{ id: 'a', at: [1, 2, 3] }],
    weights: [{ id: 'a', name: 'Before', mass: 3, centreOfGravity: [0, 0, 1], revision: 2 }],
    figures: [
      { id: 'b', name: 'Bore', of: [face], figure: 'Diameter', was: 8, revision: 2 },
      { id: 'a', name: 'Width', of: [face], figure: 'Length', was: 30, revision: 2, later: [{ x: 1 }] },
    ],
    tides: [{ id: 'a', height: 3 }],
  };
  await client.query('insert into model_preference (model_id, owner_id, document) values ($1, $2, $3)', [
    id,
    INSTALLATION,
    document,
  ]);
  // Of the second what is there is no such thing.
  const [{ id: odd }] = await rows<{ id: string }>(
    `insert into model (owner_id, name) values ('${INSTALLATION}', 'Odd') returning id`,
  );
  const nothing = { pickSets: 7, names: ['a'], figures: [null, 3, { id: 'a' }], materials: null, home: null };
  await client.query('insert into model_preference (model_id, owner_id, document) values ($1, $2, $3)', [
    odd,
    INSTALLATION,
    nothing,
  ]);

  await migrate(records, all.length);
  const kept = await rows<{
    id: string;
    kind: string;
    version: number;
    document: Record<string, unknown>;
    made_on: number;
  }>(
    `select id, kind, version, document, made_on from record where model_id = '${id}' order by kind, position, document::text`,
  );
  expect(kept.every((r) => r.version === 0 && r.made_on === 2)).toBe(true);
  const read = (kind: string) => {
    const described = RECORD_KINDS.get(kind)!;
    return kept
      .filter((r) => r.kind === kind)
      .map((r) => described.read(lifted(described, r.version, r.document)));
  };
  const readFace = readReference(face);
  expect(read('up-axis')).toEqual([{ axis: 'y' }]);
  expect(read('home')).toEqual([{ view: expect.objectContaining({ version: 3 }), framesVisible: false }]);
  expect(read('component-name')).toEqual([
    { component: './toString', name: 'Cap' },
    { component: './1', name: 'Spindle' },
  ]);
  expect(read('pick-set')).toEqual([
    { name: 'Bores', items: [readFace] },
    { name: 'Rims', items: [] },
  ]);
  expect(read('section')).toMatchObject([
    { name: 'Middle', whole: [{ kind: 'component', component: './1' }] },
  ]);
  expect(read('accepted-clash')).toHaveLength(1);
  expect(read('reference-system')).toEqual([{ name: 'Flange', of: [readFace] }]);
  expect(read('part-material')).toEqual([
    { part: 'part one', material: 'steel' },
    { part: 'prototype', material: 'brass' },
  ]);
  expect(read('component-material')).toEqual([{ component: '0/1', material: 'steel' }]);
  expect(read('typed-mass')).toEqual([{ part: 'part two', kg: 2.5, at: [1, 2, 3] }]);
  expect(read('sealed-hollow')).toEqual([{ at: [1, 2, 3] }]);
  expect(read('kept-weight')).toEqual([{ name: 'Before', mass: 3, centreOfGravity: [0, 0, 1], revision: 2 }]);
  expect(read('ledger-entry')).toMatchObject([{ name: 'Bore' }, { name: 'Width' }]);
  // What only a later version knows stays, in its place.
  expect(kept.find((r) => r.document['name'] === 'Width')!.document['later']).toEqual([{ x: 1 }]);
  expect(kept.find((r) => r.id === named)!.document).toMatchObject({ name: 'Bores', later: 1 });
  expect(kept.find((r) => r.kind === 'tides')!.document).toEqual({ value: document.tides });
  // Of what there is one of for each thing the page computes the same identifiers.
  expect(kept.find((r) => r.document['part'] === 'prototype')!.id).toBe(v3('part-material prototype', id));
  expect(await rows(`select kind, document from record where model_id = '${odd}' order by kind`)).toEqual([
    { kind: 'home', document: {} },
    { kind: 'ledger-entry', document: {} },
  ]);
});

test('from the schema of every release that has landed: model, file, view and what was kept are there afterwards, and the server runs on it', async () => {
  const all = await migrationSource.getMigrations([]);
  for (let landed = 1; landed < all.length; landed++) {
    await client.end();
    await freshDatabase('migrations_test');
    client = new pg.Client({ connectionString: process.env['DATABASE_URL'] });
    await client.connect();
    await migrate(0, landed);
    // As the tool that runs the steps notes them.
    await client.query(
      `create table knex_migrations (id serial primary key, name text, batch int, migration_time timestamptz);
       create table knex_migrations_lock (index serial primary key, is_locked int)`,
    );
    for (const { name } of all.slice(0, landed))
      await client.query('insert into knex_migrations (name, batch, migration_time) values ($1, 1, now())', [
        name,
      ]);
    const tables = new Set(
      (await rows<{ tablename: string }>('select tablename from pg_tables')).map((t) => t.tablename),
    );
    const [{ id }] = await rows<{ id: string }>(
      `insert into model (owner_id, name) values ('${INSTALLATION}', 'Valve ${landed}') returning id`,
    );
    const of = `'${INSTALLATION}', '${id}'`;
    if (tables.has('blob')) {
      await client.query(`insert into blob (id) values ('${id}')`);
      await client.query(`insert into source_file (hash, size, blob_id) values ('abc', 3, '${id}')`);
    } else {
      await client.query(
        `insert into source_file (hash, owner_id, size) values ('abc', '${INSTALLATION}', 3)`,
      );
      await client.query(`insert into source_chunk (hash, position, bytes) values ('abc', 0, 'abc')`);
    }
    await client.query(
      `insert into revision (owner_id, model_id, revision, file_name, file_hash, state) values (${of}, 1, 'v.step', 'abc', 'ready')`,
    );
    const kept: string[] = [];
    const keep = async (kind: string, sql: string) => {
      await client.query(sql);
      kept.push(kind);
    };
    const axis = `'{"axis": "y"}'`;
    if (tables.has('saved_view'))
      await keep(
        'saved-view',
        `insert into saved_view (owner_id, model_id, revision, name, position, document) values (${of}, 1, 'A', 1, '{"version": 3}')`,
      );
    if (tables.has('model_preference'))
      await keep(
        'up-axis',
        `insert into model_preference (owner_id, model_id, document) values (${of}, '{"upAxis": "y"}')`,
      );
    if (tables.has('record'))
      await keep(
        'up-axis',
        `insert into record (id, model_id, kind, version, document, made_on) values (gen_random_uuid(), '${id}', 'up-axis', 1, ${axis}, 1)`,
      );
    await prepareDatabase();
    const server = await TestServer.start();
    try {
      const model = await server.get<{ name: string; fileName: string }>(`/models/${id}`);
      expect([landed, model.name, model.fileName]).toEqual([landed, `Valve ${landed}`, 'v.step']);
      const records = await server.get<KeptRecord[]>(`/models/${id}/records`);
      expect([landed, ...records.map((r) => r.kind).sort()]).toEqual([landed, ...kept]);
      expect(
        (await rows<{ bytes: string }>(`select encode(bytes, 'escape') as bytes from blob_chunk`)).map(
          (c) => c.bytes,
        ),
      ).toEqual(tables.has('blob') ? [] : ['abc']);
    } finally {
      await server.close();
    }
  }
});

test('tables are not changed under processes of an earlier version: they are waited for, and that is said', async () => {
  await prepareDatabase();
  const mark = new RunningMark();
  await mark.onModuleInit();
  // To one that runs what the newest step made is not known yet.
  await client.query(`delete from setting where key = 'queue-version'`);
  const said = jest.spyOn(Logger.prototype, 'log').mockImplementation(() => {});
  let done = false;
  const prepared = prepareDatabase().then(() => (done = true));
  while (!said.mock.calls.length) await new Promise((r) => setTimeout(r, 20));
  expect(said.mock.calls[0][0]).toMatch(/Processes of an earlier version that still work on it: 1\./);
  await new Promise((r) => setTimeout(r, 800));
  expect(done).toBe(false);
  await mark.onApplicationShutdown();
  await prepared;
  expect(await rows(`select 1 from setting where key = 'queue-version'`)).toHaveLength(1);
  said.mockRestore();
  // Nothing to change: nobody is waited for.
  const other = new RunningMark();
  await other.onModuleInit();
  await prepareDatabase();
  await other.onApplicationShutdown();
});

test('a process that lost its mark while the tables were changed ends with a sentence', async () => {
  await prepareDatabase();
  const mark = new RunningMark();
  await mark.onModuleInit();
  const ended = jest.spyOn(process, 'exit').mockImplementation((() => {}) as never);
  const said = jest.spyOn(console, 'error').mockImplementation(() => {});
  await client.query(
    `insert into knex_migrations (name, batch, migration_time) values ('901-ebb', 99, now())`,
  );
  await client.query(
    `select pg_terminate_backend(pid) from pg_locks where locktype = 'advisory' and objid = ${RUNNING} and pid <> pg_backend_pid()`,
  );
  while (!ended.mock.calls.length) await new Promise((r) => setTimeout(r, 20));
  expect([ended.mock.calls[0][0], said.mock.calls[0][0]]).toEqual([78, expect.stringContaining('“901-ebb”')]);
  ended.mockRestore();
  said.mockRestore();
  await mark.onApplicationShutdown();
  await client.query(`delete from knex_migrations where name = '901-ebb'`);
});

test('a database of a newer version is told so in a sentence, and left as it is', async () => {
  await prepareDatabase();
  await client.query(
    `insert into knex_migrations (name, batch, migration_time) values ('900-tides', 99, now())`,
  );
  await expect(prepareDatabase()).rejects.toThrow(
    /made by a newer version of Bathyscope \(its step “900-tides”/,
  );
  expect(await rows(`select name from knex_migrations where name = '900-tides'`)).toHaveLength(1);
});
