import { randomUUID } from 'node:crypto';
import { Inject, Injectable, Logger } from '@nestjs/common';
import type { Problem } from '@bathyscope/contracts';
import { Channel } from '../database/channel.ts';
import { databaseTrouble, patiently } from '../database/failures.ts';
import { JOB_CHANNEL } from '../events/database-events.ts';
import { JOB_KINDS, JobRefused, type JobKind } from '../jobs/job-kind.ts';
import { JobResults } from '../jobs/job-results.ts';
import { JobsRepository, LEASE, type JobRow } from '../jobs/jobs.repository.ts';

/** A job that took the kernel down this often is not tried again. */
const MAX_ATTEMPTS = 2;
/**
 * Workers may be killed for reasons of their own; a job that was interrupted this often is likely the reason.
 */
const MAX_INTERRUPTIONS = 6;
/** ms between renewals of a lease. */
const BEAT = 3000;
/** ms without a renewal after which a worker lets go, before others may take the job up. */
const LET_GO = 1000 * (LEASE - 3);
/** Seconds before a job that found the disk full is tried again. */
const WAIT_FOR_ROOM = 15;
const PATIENCE = 60;

/**
 * Runs jobs, each under a lease: whoever loses it stops, and what is stored at the end
 * is stored only under it.
 */
@Injectable()
export class JobRunner {
  private readonly logger = new Logger('Jobs');
  private readonly running = new Map<string, AbortController>();
  private closing = false;
  private readonly channel = new Channel({ [JOB_CHANNEL]: (payload) => this.hear(payload) });

  constructor(
    private readonly jobs: JobsRepository,
    private readonly results: JobResults,
    @Inject(JOB_KINDS) private readonly kinds: readonly JobKind[],
  ) {}

  async open(): Promise<void> {
    await this.channel.open();
  }

  /** Stops what runs, which goes back to the queue. */
  async close(): Promise<void> {
    this.closing = true;
    for (const stop of this.running.values()) stop.abort(new Error('the worker ends'));
    await this.channel.close();
  }

  /** Never rejects: how a job went stands in its row. */
  async run(id: string): Promise<void> {
    const lease = randomUUID();
    try {
      const job = await this.jobs.claim(id, lease);
      if (job) await this.underLease(job, lease);
    } catch (error) {
      // The row is as it was, or its lease will run out; either way somebody takes the job up.
      this.logger.warn(`Job ${id} could not be settled: ${textOf(error)}`);
    }
  }

  /** Takes over what workers that are gone have left, and puts the queue right. */
  async sweep(): Promise<void> {
    const lease = randomUUID();
    for (const job of await this.jobs.takeExpired(lease)) {
      const interruptions = job.interruptions + 1;
      this.logger.warn(`${job.subject} is taken up again: its worker went away.`);
      if (interruptions < MAX_INTERRUPTIONS) await this.jobs.release(job.id, lease, { interruptions });
      else await this.giveUp(job, lease);
    }
    await this.jobs.enqueueLost();
  }

  private async underLease(job: JobRow, lease: string): Promise<void> {
    const stop = new AbortController();
    this.running.set(job.id, stop);
    if (this.closing) stop.abort(new Error('the worker ends'));
    const beat = this.beat(job.id, lease, stop);
    try {
      await this.work(job, lease, stop.signal);
    } finally {
      clearInterval(beat);
      this.running.delete(job.id);
    }
  }

  private async work(job: JobRow, lease: string, signal: AbortSignal): Promise<void> {
    const kind = this.kinds.find((k) => k.kind === job.kind);
    try {
      if (!kind)
        throw new JobRefused(`This version of the program does not know jobs of the kind “${job.kind}”.`);
      const finish = await kind.run(job.input, {
        subject: job.subject,
        signal,
        progress: this.progressOf(job.id, lease),
      });
      await patiently(PATIENCE, () => this.jobs.end(job.id, lease, 'done', null, finish));
    } catch (error) {
      await patiently(PATIENCE, () => this.settle(job, lease, error, signal.aborted));
    }
  }

  private async settle(job: JobRow, lease: string, error: unknown, aborted: boolean): Promise<void> {
    if (aborted) return this.closing ? this.jobs.release(job.id, lease, {}) : undefined;
    if (error instanceof JobRefused)
      return this.fail(job, lease, { title: this.givenUp(job).title, detail: error.message });
    const trouble = databaseTrouble(error);
    if (trouble === 'full') {
      this.logger.error(`The disk of the database is full; ${job.subject} waits for room.`);
      return this.jobs.release(job.id, lease, { stage: 'no room' }, WAIT_FOR_ROOM);
    }
    if (trouble === 'unreachable') return this.jobs.release(job.id, lease, {}, 1);
    this.logger.error(`${job.subject}: ${textOf(error)}`);
    const attempts = job.attempts + 1;
    if (attempts < MAX_ATTEMPTS) return this.jobs.release(job.id, lease, { attempts });
    return this.giveUp(job, lease);
  }

  private giveUp(job: JobRow, lease: string): Promise<void> {
    return this.fail(job, lease, this.givenUp(job));
  }

  private givenUp(job: JobRow): Pick<Problem, 'title' | 'detail'> {
    return (
      this.kinds.find((k) => k.kind === job.kind)?.givenUp ?? {
        title: 'The job failed',
        detail: 'The job was given up.',
      }
    );
  }

  private async fail(
    job: JobRow,
    lease: string,
    { title, detail }: Pick<Problem, 'title' | 'detail'>,
  ): Promise<void> {
    await this.jobs.end(job.id, lease, 'failed', { type: 'about:blank', title, status: 422, detail }, (trx) =>
      this.results.discard(trx, job.kind, job.input),
    );
  }

  /** Renews the lease; stops the job when it is lost, or when it cannot be known to hold. */
  private beat(id: string, lease: string, stop: AbortController): NodeJS.Timeout {
    let renewed = Date.now();
    return setInterval(() => {
      const asked = Date.now();
      this.jobs.renew(id, lease).then(
        (held) => (held ? (renewed = asked) : stop.abort(new Error('the lease is lost'))),
        () => Date.now() - renewed > LET_GO && stop.abort(new Error('the lease cannot be renewed')),
      );
    }, BEAT);
  }

  /** Writes progress at most five times a second. */
  private progressOf(id: string, lease: string): (stage: string, share: number) => void {
    let last = 0;
    return (stage, share) => {
      if (Date.now() - last < 200) return;
      last = Date.now();
      this.jobs.tellProgress(id, lease, stage, share).catch(() => {});
    };
  }

  private hear(payload: string): void {
    const { id, state } = JSON.parse(payload) as { id: string; state: string };
    if (state === 'cancelled') this.running.get(id)?.abort(new Error('cancelled'));
  }
}

const textOf = (error: unknown): string =>
  error instanceof Error ? (error.stack ?? error.message) : String(error);
