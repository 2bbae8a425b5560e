import { Inject, Injectable } from '@nestjs/common';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { INSTALLATION } from '../database/migrations.ts';

/** ms */
const DAY = 24 * 3600_000;

/** Who uses the program: a profile for each browser, known by the hash of what its cookie holds. */
@Injectable()
export class ProfilesRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  /** What tells this installation from others on the same host. */
  async installation(): Promise<string> {
    return (await this.knex('setting').where({ key: 'installation' }).first<{ value: string }>('value'))
      .value;
  }

  async find(tokenHash: Buffer): Promise<string | undefined> {
    const row = await this.knex('owner')
      .where({ token_hash: tokenHash })
      .first<{ id: string; seen_at: Date } | undefined>('id', 'seen_at');
    // To the day is enough, and most requests write nothing.
    if (row && Date.now() - row.seen_at.getTime() > DAY)
      await this.knex('owner').where({ id: row.id }).update({ seen_at: new Date() });
    return row?.id;
  }

  /** A profile that waits for its browser is taken; else there is a new one. */
  async take(id: string, tokenHash: Buffer): Promise<string> {
    const waiting = this.knex('owner')
      .whereNull('token_hash')
      .whereNot({ id: INSTALLATION })
      .orderBy('created_at')
      .limit(1)
      .forUpdate()
      .skipLocked()
      .select('id');
    const [taken] = (await this.knex('owner')
      .whereIn('id', waiting)
      .update({ token_hash: tokenHash })
      .returning('id')) as { id: string }[];
    if (taken) return taken.id;
    await this.knex('owner').insert({ id, name: '', token_hash: tokenHash });
    return id;
  }

  async name(id: string): Promise<string> {
    return (await this.knex('owner').where({ id }).first<{ name: string }>('name')).name;
  }

  async rename(id: string, name: string): Promise<void> {
    await this.knex('owner').where({ id }).update({ name });
  }
}
