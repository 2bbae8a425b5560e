import type pg from 'pg';
import { HopelessStart } from '../process/hopeless-start.ts';
import { migrationNames } from './migrations.ts';

/** The steps of the tables' form that were done; none in an empty database. */
async function doneSteps(client: pg.Client): Promise<string[]> {
  const there = await client.query<{ there: boolean }>(
    `select to_regclass('knex_migrations') is not null as there`,
  );
  if (!there.rows[0].there) return [];
  return (await client.query<{ name: string }>('select name from knex_migrations order by id')).rows.map(
    (row) => row.name,
  );
}

/** A database that a newer version made is left alone. @throws HopelessStart */
export async function refuseNewer(client: pg.Client): Promise<void> {
  const known = new Set(migrationNames());
  const newer = (await doneSteps(client)).filter((name) => !known.has(name)).at(-1);
  if (newer)
    throw new HopelessStart(
      `This database was made by a newer version of Bathyscope (its step “${newer}” is not known here). Start that version, or set BATHYSCOPE_DATA to another folder; nothing was changed.`,
    );
}

/** Whether there are steps still to do. */
export async function isOlder(client: pg.Client): Promise<boolean> {
  const done = new Set(await doneSteps(client));
  return migrationNames().some((name) => !done.has(name));
}
