import { Inject, Injectable } from '@nestjs/common';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { BinRepository } from '../bin/bin.repository.ts';
import { JobsRepository } from '../jobs/jobs.repository.ts';

/** Seconds. Longer than anything lies about that is still to be claimed. */
export const GARBAGE_AGE = 3600;
/** Days that the record of a finished job is kept. */
const RECORDS = 7;

/** Collects what nothing refers to, once it is old enough that nobody can be about to. */
@Injectable()
export class Garbage {
  constructor(
    @Inject(KNEX) private readonly knex: Knex,
    private readonly jobs: JobsRepository,
    private readonly bin: BinRepository,
  ) {}

  /**
   * Each statement looks at the age again when it waited for a row that somebody touched meanwhile.
   * @param age seconds
   */
  async collect(age = GARBAGE_AGE): Promise<void> {
    await this.bin.collect();
    const old = (table: string) =>
      this.knex(table).whereRaw(`${table}.touched_at < now() - make_interval(secs => ?)`, [age]);
    const unused = (by: string, match: string) => this.knex(by).whereRaw(match).select(this.knex.raw('1'));
    await old('source_file')
      .whereNotExists(unused('revision', 'revision.file_hash = source_file.hash'))
      .delete();
    await old('blob').whereNotExists(unused('source_file', 'source_file.blob_id = blob.id')).delete();
    await old('geometry')
      .whereNotExists(unused('revision_geometry', 'revision_geometry.hash = geometry.hash'))
      .delete();
    await this.jobs.forgetFinished(RECORDS, age);
  }
}
