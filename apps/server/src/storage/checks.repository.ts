import { Inject, Injectable } from '@nestjs/common';
import type { ClashCheck } from '@bathyscope/contracts';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';

export interface CheckRow {
  id: string;
  model_id: string;
  revision: number;
  about: string;
  input_key: string;
  among: string[] | null;
  wanted: string[] | null;
  job_id: string | null;
  state: 'running' | 'done';
  pairs: number | null;
  done: number;
  found: ClashCheck['found'];
  created_at: Date;
}

export const checkView = (row: CheckRow): ClashCheck => ({
  id: row.id,
  about: row.about,
  ofAll: row.among === null && row.wanted === null,
  jobId: row.job_id,
  state: row.state,
  pairs: row.pairs,
  done: row.done,
  found: row.found,
});

const text = (values: readonly string[] | null): string | null => values && JSON.stringify(values);

@Injectable()
export class ChecksRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  /** @returns undefined when the same was asked before: then there is that one */
  async create(
    trx: Knex.Transaction,
    row: Pick<CheckRow, 'model_id' | 'revision' | 'about' | 'input_key' | 'among' | 'wanted'>,
  ): Promise<CheckRow | undefined> {
    const [made] = (await trx('clash_check')
      .insert({ ...row, among: text(row.among), wanted: text(row.wanted) })
      .onConflict(['model_id', 'revision', 'input_key'])
      .ignore()
      .returning('*')) as CheckRow[];
    return made;
  }

  async runBy(trx: Knex.Transaction, id: string, jobId: string): Promise<CheckRow> {
    const [row] = (await trx('clash_check')
      .where({ id })
      .update({ job_id: jobId })
      .returning('*')) as CheckRow[];
    return row;
  }

  async same(modelId: string, revision: number, key: string): Promise<CheckRow | undefined> {
    return this.knex<CheckRow>('clash_check').where({ model_id: modelId, revision, input_key: key }).first();
  }

  find(id: string): Promise<CheckRow | undefined> {
    return this.knex<CheckRow>('clash_check').where({ id }).first();
  }

  newest(modelId: string, revision: number): Promise<CheckRow | undefined> {
    return this.knex<CheckRow>('clash_check')
      .where({ model_id: modelId, revision })
      .orderBy('created_at', 'desc')
      .first();
  }

  /**
   * Keeps what is found so far, so that a check that is interrupted goes on from there.
   * Never less than there is.
   */
  async note(id: string, { pairs, done, found }: Pick<CheckRow, 'pairs' | 'done' | 'found'>): Promise<void> {
    await this.knex('clash_check')
      .where({ id, state: 'running' })
      .where('done', '<=', done)
      .update({ pairs, done, found: JSON.stringify(found) });
  }

  async complete(
    trx: Knex.Transaction,
    id: string,
    { pairs, found }: Pick<CheckRow, 'pairs' | 'found'>,
  ): Promise<void> {
    await trx('clash_check')
      .where({ id })
      .update({ state: 'done', pairs, done: pairs, found: JSON.stringify(found) });
  }

  /** A check that will not be finished goes; the answer of one that was stays. */
  async removeUnfinished(trx: Knex.Transaction, id: string): Promise<void> {
    await trx('clash_check').where({ id, state: 'running' }).delete();
  }
}
