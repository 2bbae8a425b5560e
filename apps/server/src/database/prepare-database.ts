import { makeWorkerUtils } from 'graphile-worker';
import knexFactory from 'knex';
import pg from 'pg';
import { databaseUrl } from './database-url.ts';
import { patiently } from './failures.ts';
import { migrationSource } from './migrations.ts';

/** Any number that nothing else in the database uses. */
const MIGRATING = 460_046;
/** Seconds that a database which is just starting is waited for. */
const PATIENCE = 60;

/**
 * Brings the tables, and those of the queue, to the newest form. Several processes may start at once: one does it, the
 * others wait. What a killed process left locked is freed, for whoever holds the lock here is alone.
 */
export async function prepareDatabase(): Promise<void> {
  await patiently(PATIENCE, async () => {
    const client = new pg.Client({ connectionString: databaseUrl() });
    client.on('error', () => {});
    await client.connect();
    const knex = knexFactory({ client: 'pg', connection: databaseUrl(), pool: { min: 0, max: 1 }, migrations: { migrationSource } });
    try {
      await client.query('select pg_advisory_lock($1)', [MIGRATING]);
      await knex.migrate.forceFreeMigrationsLock();
      await knex.migrate.latest();
      const queue = await makeWorkerUtils({ connectionString: databaseUrl() });
      await queue.migrate();
      await queue.release();
    } finally {
      await knex.destroy();
      await client.end().catch(() => {});
    }
  });
}
