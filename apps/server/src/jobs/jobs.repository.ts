import { Inject, Injectable } from '@nestjs/common';
import type { JobState, JobView, Problem } from '@bathyscope/contracts';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { INSTALLATION } from '../database/migrations.ts';
import type { Lane } from '../process/lanes.ts';

/** Seconds that a lease holds without being renewed. */
export const LEASE = 15;

export interface JobRow {
  id: string;
  kind: string;
  subject: string;
  model_id: string | null;
  input: unknown;
  state: JobState;
  stage: string;
  progress: number;
  attempts: number;
  interruptions: number;
  problem: Problem | null;
  created_at: Date;
  finished_at: Date | null;
  lease: string | null;
  lease_until: Date | null;
  changed_at: Date;
  askers: string[];
  lane: Lane;
}

/** A job to be made. */
export interface NewJob {
  kind: string;
  subject: string;
  modelId: string | null;
  input: object;
  /** Who wants what it makes. */
  asker: string;
  lane: Lane;
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

type Change = Partial<Omit<JobRow, 'problem' | 'changed_at'>> & { problem?: string };

const IDLE = { lease: null, lease_until: null } as const;

/**
 * The states of jobs, and who may change them. `job` is the truth; the queue (graphile-worker) only decides
 * which worker gets a job next, and is put right from `job` whenever the two disagree.
 */
@Injectable()
export class JobsRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  /**
   * Creates a job and hands it to the queue in the caller's transaction, so that neither exists without the
   * other. Askers take turns.
   */
  async create(
    trx: Knex.Transaction,
    { kind, subject, modelId, input, asker, lane }: NewJob,
  ): Promise<JobRow> {
    const [row] = (await trx('job')
      .insert({
        owner_id: INSTALLATION,
        kind,
        subject,
        model_id: modelId,
        input: JSON.stringify(input),
        askers: [asker],
        lane,
      })
      .returning('*')) as JobRow[];
    await this.enqueue(trx, row, 0, await this.waitingOf(trx, asker, lane));
    return row;
  }

  /** How many jobs of an asker wait or run: the next comes after as many of whoever asks at the same time. */
  private async waitingOf(trx: Knex.Transaction, asker: string, lane: Lane): Promise<number> {
    const row = (await trx('job')
      .where({ lane })
      .whereIn('state', ['queued', 'running'])
      .whereRaw('? = any (askers)', [asker])
      .count({ n: '*' })
      .first()) as { n: string };
    return Number(row.n);
  }

  /** Somebody wants what a model's job makes. */
  async ask(trx: Knex.Transaction, modelId: string, kind: string, asker: string): Promise<void> {
    await trx('job')
      .where({ model_id: modelId, kind })
      .whereIn('state', ['queued', 'running'])
      .whereRaw('not ? = any (askers)', [asker])
      .update({ askers: trx.raw('array_append(askers, ?::uuid)', [asker]) });
  }

  list(): Promise<JobRow[]> {
    return this.knex<JobRow>('job')
      .whereIn('state', ['queued', 'running', 'failed'])
      .orderBy('created_at', 'desc')
      .limit(200);
  }

  find(id: string): Promise<JobRow | undefined> {
    return this.knex<JobRow>('job').where({ id }).first();
  }

  /** Takes a waiting job for one worker. @returns undefined when it does not wait any more */
  async claim(id: string, lease: string): Promise<JobRow | undefined> {
    const [row] = await this.change(
      this.knex,
      { id, state: 'queued' },
      { state: 'running', stage: 'starting', progress: 0, lease, lease_until: this.leaseEnd() },
    );
    return row;
  }

  /** Renews a lease. @returns false when it is lost: the job was cancelled, or taken up by another */
  async renew(id: string, lease: string): Promise<boolean> {
    return (
      (await this.knex('job')
        .where({ id, lease, state: 'running' })
        .update({ lease_until: this.leaseEnd() })) > 0
    );
  }

  async tellProgress(id: string, lease: string, stage: string, progress: number): Promise<void> {
    await this.change(this.knex, { id, lease, state: 'running' }, { stage, progress });
  }

  /**
   * Ends a job together with what belongs to it, if the lease still holds. @returns false when it does not;
   * nothing is done then
   */
  async end(
    id: string,
    lease: string,
    state: 'done' | 'failed',
    problem: Problem | null,
    together: (trx: Knex.Transaction) => Promise<void>,
  ): Promise<boolean> {
    return this.knex.transaction(async (trx) => {
      const held = await trx('job').where({ id, lease, state: 'running' }).forUpdate().first('id');
      if (!held) return false;
      await together(trx);
      await this.change(
        trx,
        { id },
        {
          ...IDLE,
          state,
          stage: state,
          finished_at: new Date(),
          ...(state === 'done' && { progress: 1 }),
          ...(problem && { problem: JSON.stringify(problem) }),
        },
      );
      return true;
    });
  }

  /**
   * Gives a job back to the queue.
   * @param values what is counted
   * @param delay seconds
   */
  async release(
    id: string,
    lease: string,
    values: Pick<Change, 'attempts' | 'interruptions' | 'stage'>,
    delay = 0,
  ): Promise<void> {
    await this.knex.transaction(async (trx) => {
      const [row] = await this.change(
        trx,
        { id, lease, state: 'running' },
        { ...IDLE, state: 'queued', stage: 'waiting', progress: 0, ...values },
      );
      if (row) await this.enqueue(trx, row, delay);
    });
  }

  /**
   * Cancels a waiting or running job with what stands for its result, and forgets it; of a finished one only
   * the record goes. @returns false when there is none
   */
  async cancel(
    id: string,
    asker: string,
    discard: (trx: Knex.Transaction, job: JobRow) => Promise<void>,
  ): Promise<'cancelled' | 'gone' | 'wanted by others'> {
    return this.knex.transaction(async (trx) => {
      const job = await trx<JobRow>('job').where({ id }).forUpdate().first();
      if (!job) return 'gone';
      const others = job.askers.filter((a) => a !== asker);
      if (
        others.length &&
        others.length < job.askers.length &&
        (job.state === 'queued' || job.state === 'running')
      ) {
        await trx('job').where({ id }).update({ askers: others });
        return 'wanted by others';
      }
      if (job.state === 'queued' || job.state === 'running') {
        await discard(trx, job);
        await this.change(trx, { id }, { ...IDLE, state: 'cancelled', finished_at: new Date() });
        await trx.raw('select graphile_worker.remove_job(?)', [id]);
      }
      await trx('job').where({ id }).delete();
      return 'cancelled';
    });
  }

  /** Jobs whose worker has not renewed its lease; each is taken over by whoever asks first. */
  async takeExpired(lease: string): Promise<JobRow[]> {
    const expired = this.knex('job')
      .where({ state: 'running' })
      .where('lease_until', '<', this.knex.fn.now())
      .select('id')
      .forUpdate()
      .skipLocked();
    return (await this.knex('job')
      .whereIn('id', expired)
      .update({ lease, lease_until: this.leaseEnd() })
      .returning('*')) as JobRow[];
  }

  /** Puts waiting jobs that the queue has lost, or holds for a worker that is gone, into it again. */
  async enqueueLost(): Promise<void> {
    const lost = (await this.knex('job')
      .where({ state: 'queued' })
      .whereRaw('changed_at < now() - make_interval(secs => ?)', [LEASE])
      .whereRaw(
        'not exists (select 1 from graphile_worker.jobs q where q.key = job.id::text and q.locked_at is null)',
      )
      .select('id', 'lane')) as Pick<JobRow, 'id' | 'lane'>[];
    for (const job of lost) await this.knex.transaction((trx) => this.enqueue(trx, job));
  }

  /**
   * Forgets jobs that ended so many days ago, and entries of the queue whose worker is
   * gone for so many seconds.
   */
  async forgetFinished(days: number, seconds: number): Promise<void> {
    await this.knex.raw(
      'delete from graphile_worker._private_jobs where key is null and attempts >= max_attempts and locked_at < now() - make_interval(secs => ?)',
      [seconds],
    );
    await this.knex('job')
      .where(
        (ended) =>
          void ended
            .whereIn('state', ['done', 'cancelled'])
            .orWhere({ state: 'failed', kind: 'convert-again' }),
      )
      .whereRaw('finished_at < now() - make_interval(days => ?)', [days])
      .delete();
  }

  /** @param delay seconds @param place lower goes first */
  private async enqueue(
    trx: Knex.Transaction,
    { id, lane }: Pick<JobRow, 'id' | 'lane'>,
    delay = 0,
    place = 0,
  ): Promise<void> {
    // If a worker still holds it, that entry loses its key and is never run again, and a new one is made.
    await trx.raw(
      'select graphile_worker.add_job(?, payload := ?::json, max_attempts := 1, job_key := ?, run_at := now() + make_interval(secs => ?), priority := ?)',
      [lane, JSON.stringify({ id }), id, delay, place],
    );
  }

  private leaseEnd(): Knex.Raw {
    return this.knex.raw('now() + make_interval(secs => ?)', [LEASE]);
  }

  private async change(
    knex: Knex,
    which: Partial<Pick<JobRow, 'id' | 'lease' | 'state'>>,
    values: Omit<Change, 'lease_until'> & { lease_until?: unknown },
  ): Promise<JobRow[]> {
    return (await knex('job')
      .where(which)
      .update({ ...values, changed_at: knex.fn.now() })
      .returning('*')) as JobRow[];
  }
}
