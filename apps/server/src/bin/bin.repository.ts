import type { BinnedModel } from '@bathyscope/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { INSTALLATION } from '../database/migrations.ts';
import { installation } from '../process/installation.ts';

/** Models listed at once; the newest. */
const MOST = 500;

/** What was deleted and can be put back, until it is deleted for good. */
@Injectable()
export class BinRepository {
  private readonly days = installation().BATHYSCOPE_BIN_DAYS;

  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  async models(): Promise<BinnedModel[]> {
    const rows = (await this.knex('model')
      .whereNotNull('deleted_at')
      .orderBy('deleted_at', 'desc')
      .limit(MOST)
      .select('id', 'name', 'deleted_at')) as {
      id: string;
      name: string;
      deleted_at: Date;
    }[];
    return rows.map(({ id, name, deleted_at: at }) => {
      const until = new Date(at);
      until.setDate(until.getDate() + this.days);
      return { id, name, deletedAt: at.toISOString(), until: until.toISOString() };
    });
  }

  /**
   * Deletes a model of the bin for good, with all that was kept of it; its bytes and geometry are collected
   * when nothing else uses them. @returns whether it lay there
   */
  async purgeModel(id: string): Promise<boolean> {
    return (await this.knex('model').where({ id }).whereNotNull('deleted_at').delete()) > 0;
  }

  /**
   * Deletes for good what has lain in the bin for long, jobs that failed as long ago, and profiles
   * that never kept anything.
   */
  async collect(): Promise<void> {
    const old = (table: string, column: string) =>
      this.knex(table).whereRaw(`${table}.${column} < now() - make_interval(days => ?)`, [this.days]);
    for (const table of ['model', 'revision', 'record']) await old(table, 'deleted_at').delete();
    await old('job', 'finished_at').where({ state: 'failed' }).delete();
    const made = ['model', 'revision', 'view_state', 'view_link', 'user_setting', 'job', 'own_material'];
    const unused = old('owner', 'seen_at')
      .whereNot({ id: INSTALLATION })
      .whereNotNull('token_hash')
      .where({ name: '' });
    for (const table of made)
      void unused.whereNotExists(
        this.knex(table).whereRaw(`${table}.owner_id = owner.id`).select(this.knex.raw('1')),
      );
    const inRecord = this.knex('record')
      .whereRaw('owner.id in (record.author, record.changed_by)')
      .select(this.knex.raw('1'));
    await unused.whereNotExists(inRecord).delete();
  }
}
