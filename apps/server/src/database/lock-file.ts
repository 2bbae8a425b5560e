import type { Knex } from 'knex';

/** What is done about one file's bytes is done by one at a time, to the end of the transaction. */
export async function lockFile(trx: Knex.Transaction, hash: string): Promise<void> {
  await trx.raw('select pg_advisory_xact_lock(hashtextextended(?, 0))', [hash]);
}
