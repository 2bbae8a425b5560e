import { Inject, Injectable } from '@nestjs/common';
import type { JobState, JobView, Problem } from '@bathyscope/contracts';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { LOCAL_OWNER } from '../database/migrations.ts';

export interface ConvertInput {
  revisionId: string;
  fileHash: string;
}

export interface JobRow {
  id: string;
  kind: 'convert';
  subject: string;
  model_id: string | null;
  input: ConvertInput;
  state: JobState;
  stage: string;
  progress: number;
  attempts: number;
  problem: Problem | null;
  created_at: Date;
}

export const jobView = (row: JobRow): JobView => ({
  id: row.id,
  kind: row.kind,
  state: row.state,
  subject: row.subject,
  modelId: row.model_id,
  stage: row.stage,
  progress: row.progress,
  problem: row.problem,
  createdAt: row.created_at.toISOString(),
});

@Injectable()
export class JobsRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  /** Creates a job and hands it to the queue in the caller's transaction, so that neither exists without the other. */
  async create(trx: Knex.Transaction, subject: string, modelId: string, input: ConvertInput): Promise<JobRow> {
    const [row] = await trx<JobRow>('job')
      .insert({ owner_id: LOCAL_OWNER, kind: 'convert', subject, model_id: modelId, input: JSON.stringify(input) } as never)
      .returning('*');
    await this.enqueue(trx, row.id);
    return row;
  }

  private async enqueue(knex: Knex, id: string): Promise<void> {
    await knex.raw(`select graphile_worker.add_job('run_job', payload := ?::json, max_attempts := 1, job_key := ?)`, [JSON.stringify({ id }), id]);
  }

  requeue(id: string): Promise<void> {
    return this.enqueue(this.knex, id);
  }

  list(): Promise<JobRow[]> {
    return this.knex<JobRow>('job').whereIn('state', ['queued', 'running', 'failed']).orderBy('created_at', 'desc').limit(200);
  }

  find(id: string): Promise<JobRow | undefined> {
    return this.knex<JobRow>('job').where({ id }).first();
  }

  /** Changes a job that is in one of the given states. @returns the job, or undefined when it was not */
  async change(id: string, from: JobState[], values: Partial<JobRow> & { finished_at?: Date }): Promise<JobRow | undefined> {
    const stored = { ...values, ...(values.problem && { problem: JSON.stringify(values.problem) as never }) };
    const [row] = await this.knex<JobRow>('job').where({ id }).whereIn('state', from).update(stored).returning('*');
    return row;
  }

  async remove(id: string): Promise<void> {
    await this.knex('job').where({ id }).delete();
  }

  /** Jobs that were running when the server last ended. */
  interrupted(): Promise<JobRow[]> {
    return this.knex<JobRow>('job').whereIn('state', ['queued', 'running']).orderBy('created_at');
  }
}
