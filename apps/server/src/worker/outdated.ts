import { Inject, Injectable } from '@nestjs/common';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { INSTALLATION } from '../database/migrations.ts';
import type { ConvertAgainInput } from '../jobs/job-results.ts';
import { JobsRepository } from '../jobs/jobs.repository.ts';

/** Setting: versions in the order in which they came. */
const CONVERTERS = 'converters';

/** Finds what an older converter made, and has it converted again: one at a time, what is looked at first. */
@Injectable()
export class Outdated {
  constructor(
    @Inject(KNEX) private readonly knex: Knex,
    private readonly jobs: JobsRepository,
  ) {}

  /** @param converter version of the one that is there now */
  async enqueueNext(converter: string): Promise<void> {
    await this.knex.transaction(async (trx) => {
      const busy = await trx('job')
        .where({ kind: 'convert-again' })
        .whereIn('state', ['queued', 'running'])
        .first('id');
      if (busy) return;
      const older = await this.olderThan(trx, converter);
      const next = (await trx('revision')
        .join('model', 'model.id', 'revision.model_id')
        .where({ 'revision.state': 'ready' })
        .whereNull('revision.deleted_at')
        .whereNull('model.deleted_at')
        .where((made) => void made.whereNull('revision.converter').orWhereIn('revision.converter', older))
        .orderByRaw(
          '(revision.revision = model.revision) desc, model.updated_at desc, revision.revision desc',
        )
        .forUpdate('revision')
        .skipLocked()
        .first('revision.id', 'revision.model_id', 'revision.file_name', 'revision.file_hash')) as
        { id: string; model_id: string; file_name: string; file_hash: string } | undefined;
      if (!next) return;
      const input: ConvertAgainInput = { revisionId: next.id, fileHash: next.file_hash, converter };
      const job = {
        kind: 'convert-again',
        subject: next.file_name,
        modelId: next.model_id,
        input,
        asker: INSTALLATION,
      };
      await this.jobs.create(trx, { ...job, lane: 'run_again' });
    });
  }

  /**
   * Converters that were here before one: versions say nothing of their order, and two may work
   * at once, on two machines.
   */
  private async olderThan(trx: Knex.Transaction, converter: string): Promise<string[]> {
    const row = (await trx('setting').where({ key: CONVERTERS }).first('value')) as
      { value: string[] } | undefined;
    const seen = row?.value ?? [];
    if (seen.includes(converter)) return seen.slice(0, seen.indexOf(converter));
    await trx('setting')
      .insert({ key: CONVERTERS, value: JSON.stringify([converter]) })
      .onConflict('key')
      .merge({ value: trx.raw('setting.value || excluded.value') });
    return seen;
  }
}
