import { Logger } from '@nestjs/common';
import { makeWorkerUtils } from 'graphile-worker';
import { version as queueVersion } from 'graphile-worker/dist/version.js';
import knexFactory from 'knex';
import pg from 'pg';
import { databaseUrl } from './database-url.ts';
import { patiently } from './failures.ts';
import { migrationSource } from './migrations.ts';
import { isOlder, refuseNewer } from './newer-database.ts';
import { RUNNING } from './running-mark.ts';

/** Any number that nothing else in the database uses. */
const MIGRATING = 460_046;
/** Seconds that a database which is just starting is waited for. */
const PATIENCE = 60;
/** ms between looks whether the others have ended, and between sentences about it. */
const LOOK = 500;
const SAY = 60_000;

/**
 * Brings the tables, and those of the queue, to the newest form. Several processes may start at once: one
 * does it, the others wait. What a killed process left locked is freed, for whoever holds the lock here is
 * alone. Tables are not changed while processes of another version work on them: those are
 * waited for, and it is said.
 */
export async function prepareDatabase(): Promise<void> {
  await patiently(PATIENCE, async () => {
    const client = new pg.Client({ connectionString: databaseUrl() });
    client.on('error', () => {});
    await client.connect();
    try {
      await client.query('select pg_advisory_lock($1)', [MIGRATING]);
      await refuseNewer(client);
      if (!(await isOlder(client)) && (await madeQueue(client)) === queueVersion) return;
      await othersHaveEnded(client);
      await migrate();
      await client.query(
        `insert into setting (key, value) values ('queue-version', to_jsonb($1::text)) on conflict (key) do update set value = excluded.value`,
        [queueVersion],
      );
    } finally {
      await client.end().catch(() => {});
    }
  });
}

/** The version of the queue that made its tables; null where none is known. */
async function madeQueue(client: pg.Client): Promise<string | null> {
  const { rows } = await client.query<{ value: string }>(
    `select value from setting where key = 'queue-version'`,
  );
  return rows[0]?.value ?? null;
}

async function othersHaveEnded(client: pg.Client): Promise<void> {
  const logger = new Logger('Database');
  for (let said = 0; ;) {
    const { rows } = await client.query<{ alone: boolean }>('select pg_try_advisory_lock($1) as alone', [
      RUNNING,
    ]);
    if (rows[0].alone) return;
    if (Date.now() - said > SAY) {
      said = Date.now();
      const others = await client.query<{ n: string }>(
        `select count(*) as n from pg_locks where locktype = 'advisory' and mode = 'ShareLock' and granted and objid = $1 and database = (select oid from pg_database where datname = current_database())`,
        [RUNNING],
      );
      logger.log(
        `The database is to be brought to a newer form. Processes of an earlier version that still work on it: ${others.rows[0].n}. End them (bin/start and bin/worker, also on other machines); this one waits.`,
      );
    }
    await new Promise((done) => setTimeout(done, LOOK));
  }
}

async function migrate(): Promise<void> {
  const knex = knexFactory({
    client: 'pg',
    connection: databaseUrl(),
    pool: { min: 0, max: 1 },
    migrations: { migrationSource },
  });
  try {
    await knex.migrate.forceFreeMigrationsLock();
    await knex.migrate.latest();
    const queue = await makeWorkerUtils({ connectionString: databaseUrl() });
    await queue.migrate();
    await queue.release();
  } finally {
    await knex.destroy();
  }
}
