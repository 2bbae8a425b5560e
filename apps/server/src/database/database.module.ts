import { Global, Module, type OnApplicationShutdown } from '@nestjs/common';
import knexFactory from 'knex';
import type { Knex } from 'knex';
import pg from 'pg';
import { migrationSource } from './migrations.ts';

/** Injection token of the Knex instance. */
export const KNEX = 'KNEX';

// Sizes fit a JavaScript number; node-postgres gives bigint as text by default.
pg.types.setTypeParser(pg.types.builtins.INT8, Number);

export function databaseUrl(): string {
  const url = process.env['DATABASE_URL'];
  if (!url) throw new Error('DATABASE_URL is not set; start the server with bin/start.');
  return url;
}

async function connect(): Promise<Knex> {
  const knex = knexFactory({ client: 'pg', connection: databaseUrl(), pool: { min: 0, max: 12 }, migrations: { migrationSource } });
  await knex.migrate.latest();
  return knex;
}

class KnexCloser implements OnApplicationShutdown {
  private readonly knex: Knex;
  constructor(knex: Knex) {
    this.knex = knex;
  }
  async onApplicationShutdown(): Promise<void> {
    await this.knex.destroy();
  }
}

@Global()
@Module({
  providers: [
    { provide: KNEX, useFactory: connect },
    { provide: KnexCloser, useFactory: (knex: Knex) => new KnexCloser(knex), inject: [KNEX] },
  ],
  exports: [KNEX],
})
export class DatabaseModule {}
