import { makeWorkerUtils } from 'graphile-worker';
import knexFactory, { type Knex } from 'knex';
import pg from 'pg';
import { databaseUrl } from './database-url.ts';
import { HopelessStart } from '../process/hopeless-start.ts';
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
      await refuseNewer(knex);
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

/** A database that a newer version made is left alone. @throws HopelessStart */
async function refuseNewer(knex: Knex): Promise<void> {
  if (!(await knex.schema.hasTable('knex_migrations'))) return;
  const known = new Set((await migrationSource.getMigrations([])).map((m) => migrationSource.getMigrationName(m)));
  const made = (await knex('knex_migrations').orderBy('id').select('name')) as { name: string }[];
  const newer = made.filter(({ name }) => !known.has(name)).at(-1);
  if (newer)
    throw new HopelessStart(
      `This database was made by a newer version of Bathyscope (its step “${newer.name}” is not known here). Start that version, or set BATHYSCOPE_DATA to another folder; nothing was changed.`,
    );
}
