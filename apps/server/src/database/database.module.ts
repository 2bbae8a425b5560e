import { Global, Logger, Module, type OnApplicationShutdown } from '@nestjs/common';
import knexFactory from 'knex';
import type { Knex } from 'knex';
import pg from 'pg';
import { databaseUrl } from './database-url.ts';
import { RunningMark } from './running-mark.ts';

/** Injection token of the Knex instance. */
export const KNEX = 'KNEX';

// Sizes fit a JavaScript number; node-postgres gives bigint as text by default.
pg.types.setTypeParser(pg.types.builtins.INT8, Number);

/** A connection that waits longer than this for a free one is told so. */
const ACQUIRE_TIMEOUT = 20_000;

/** Lost connections are told where they hurt. */
const logger = new Logger('Database');
const log = {
  warn: (m: unknown) => logger.debug(m),
  error: (m: unknown) => logger.debug(m),
  deprecate: () => {},
  debug: () => {},
};

const connect = (): Knex =>
  knexFactory({
    client: 'pg',
    connection: databaseUrl(),
    pool: { min: 0, max: 12 },
    acquireConnectionTimeout: ACQUIRE_TIMEOUT,
    log,
  });

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
    RunningMark,
    { provide: KnexCloser, useFactory: (knex: Knex) => new KnexCloser(knex), inject: [KNEX] },
  ],
  exports: [KNEX],
})
export class DatabaseModule {}
