import fs from 'node:fs';
import pg from 'pg';
import { freshDatabase } from '../testing/test-server.ts';
import { INSTALLATION, migrationSource } from './migrations.ts';

let client: pg.Client;
beforeAll(async () => {
  await freshDatabase('migrations_test');
  client = new pg.Client({ connectionString: process.env['DATABASE_URL'] });
  await client.connect();
});
afterAll(() => client.end());

const rows = async <T>(sql: string): Promise<T[]> => (await client.query(sql)).rows as T[];

test('what was kept before there were profiles is kept: settings and last states wait for a browser, the rest is the model’s', async () => {
  const all = await migrationSource.getMigrations([]);
  const migrate = async (from: number, to: number) => {
    for (const { file } of all.slice(from, to)) await client.query(fs.readFileSync(file, 'utf8'));
  };
  const profiles = all.findIndex((m) => m.name.includes('profiles'));
  await migrate(0, profiles);
  const [{ id }] = await rows<{ id: string }>(`insert into model (owner_id, name) values ('${INSTALLATION}', 'Valve') returning id`);
  const of = `'${INSTALLATION}', '${id}'`;
  await client.query(`insert into user_setting (owner_id, document) values ('${INSTALLATION}', '{"theme": "abyss"}')`);
  await client.query(`insert into view_state (owner_id, model_id, revision, kind, document) values (${of}, 1, 'last', '{"version": 3}')`);
  await client.query(`insert into model_preference (owner_id, model_id, document) values (${of}, '{"upAxis": "y"}')`);
  await client.query(
    `insert into saved_view (owner_id, model_id, revision, name, position, slot, document) values (${of}, 1, 'A', 1, 3, '{}')`,
  );

  await migrate(profiles, all.length);
  const [waiting, ...more] = await rows<{ id: string; token_hash: null }>(`select * from owner where id <> '${INSTALLATION}'`);
  expect([more, waiting.token_hash]).toEqual([[], null]);
  expect(await rows('select owner_id, document from user_setting')).toEqual([{ owner_id: waiting.id, document: { theme: 'abyss' } }]);
  expect(await rows('select owner_id, document from view_state')).toEqual([{ owner_id: waiting.id, document: { version: 3 } }]);
  expect(await rows('select document, version from model_preference')).toEqual([{ document: { upAxis: 'y' }, version: 1 }]);
  expect(await rows('select name, slot from saved_view')).toEqual([{ name: 'A', slot: 3 }]);
});
