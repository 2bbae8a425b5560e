import { Injectable, Logger, type OnApplicationBootstrap, type OnApplicationShutdown } from '@nestjs/common';
import type { JobView, Problem } from '@bathyscope/contracts';
import { Logger as WorkerLogger, makeWorkerUtils, run, type Runner, type WorkerUtils } from 'graphile-worker';
import { Subject } from 'rxjs';
import { databaseUrl } from '../database/database.module.ts';
import { KernelRefusal, KernelStopped } from '../kernel/kernel-thread.ts';
import { notFound } from '../problems/problem.ts';
import { ConversionService, type ConversionProgress } from './conversion.service.ts';
import { JobsRepository, jobView, type JobRow } from './jobs.repository.ts';

/** A job that took the kernel down this often is not tried again. */
const MAX_ATTEMPTS = 2;

const unreadable = (detail: string): Problem => ({ type: 'about:blank', title: 'The file could not be opened', status: 422, detail });

/** Runs jobs from the queue in PostgreSQL, one conversion at a time, and tells whoever listens how they go. */
@Injectable()
export class JobsService implements OnApplicationBootstrap, OnApplicationShutdown {
  /** Every change of every job. */
  readonly changes = new Subject<JobView>();
  private readonly logger = new Logger('Jobs');
  private runner: Runner | null = null;
  private running: string | null = null;

  constructor(
    private readonly jobs: JobsRepository,
    private readonly conversion: ConversionService,
  ) {}

  /** The queue's tables must exist before the first upload; called before the server listens. */
  static async prepareQueue(): Promise<WorkerUtils> {
    const utils = await makeWorkerUtils({ connectionString: databaseUrl() });
    await utils.migrate();
    return utils;
  }

  async onApplicationBootstrap(): Promise<void> {
    const utils = await JobsService.prepareQueue();
    // This server is the queue's only worker: whatever is still locked was locked by one that is gone.
    await utils.withPgClient((client) => client.query('update graphile_worker._private_jobs set locked_at = null, locked_by = null where locked_at is not null'));
    await utils.release();
    await this.takeUpInterrupted();
    this.runner = await run({
      connectionString: databaseUrl(),
      concurrency: 1,
      logger: new WorkerLogger(() => (level, message) => {
        if (['error', 'warning'].includes(level)) this.logger.warn(message);
      }),
      noHandleSignals: true,
      pollInterval: 5000,
      taskList: { run_job: (payload) => this.runJob((payload as { id: string }).id) },
    });
  }

  async onApplicationShutdown(): Promise<void> {
    const stopping = this.runner?.stop().catch(() => {});
    if (this.running) await this.conversion.stop();
    await stopping;
    this.changes.complete();
  }

  async list(): Promise<JobView[]> {
    return (await this.jobs.list()).map(jobView);
  }

  async find(id: string): Promise<JobView> {
    const job = await this.jobs.find(id);
    if (!job) throw notFound('job');
    return jobView(job);
  }

  /** Cancels a waiting or running job, leaving nothing of it behind; a finished one is only put out of sight. */
  async cancel(id: string): Promise<void> {
    const job = await this.jobs.find(id);
    if (!job) throw notFound('job');
    const cancelled = await this.jobs.change(id, ['queued', 'running'], { state: 'cancelled', finished_at: new Date() });
    if (cancelled) {
      if (this.running === id) await this.conversion.stop();
      await this.conversion.discard(cancelled.input, cancelled.model_id);
      this.tell({ ...cancelled, model_id: null });
    }
    await this.jobs.remove(id);
  }

  announce(job: JobRow): JobView {
    const view = jobView(job);
    this.changes.next(view);
    return view;
  }

  private tell = (job: JobRow | undefined): void => {
    if (job) this.announce(job);
  };

  /** After a restart: what waited or ran is put back into the queue; what ran too often is given up. */
  private async takeUpInterrupted(): Promise<void> {
    for (const job of await this.jobs.interrupted()) {
      if (job.state === 'running') {
        this.logger.log(`Taking up ${job.subject} again, which a restart interrupted.`);
        await this.retryOrGiveUp(job, 'the server stopped while it was being converted');
      } else await this.jobs.requeue(job.id);
    }
  }

  private async runJob(id: string): Promise<void> {
    const waiting = await this.jobs.find(id);
    const job = waiting && (await this.jobs.change(id, ['queued'], { state: 'running', stage: 'reading', attempts: waiting.attempts + 1 }));
    if (!job) return;
    this.tell(job);
    this.running = id;
    try {
      await this.conversion.run(job.input, job.subject, this.progressOf(id));
      this.tell(await this.jobs.change(id, ['running'], { state: 'done', stage: 'done', progress: 1, finished_at: new Date() }));
    } catch (error) {
      await this.settleFailure(job, error);
    } finally {
      this.running = null;
    }
  }

  /** Writes progress at most five times a second: a model of thousands of parts would otherwise spend its time on it. */
  private progressOf(id: string): ConversionProgress {
    let last = 0;
    return (stage, progress) => {
      if (Date.now() - last < 200) return;
      last = Date.now();
      void this.jobs.change(id, ['running'], { stage, progress }).then(this.tell, () => {});
    };
  }

  private async settleFailure(job: JobRow, error: unknown): Promise<void> {
    const now = await this.jobs.find(job.id).catch(() => undefined);
    if (now?.state !== 'running') return;
    if (error instanceof KernelStopped) return this.retryOrGiveUp(now, error.message);
    if (error instanceof KernelRefusal) return this.fail(now, unreadable(error.message));
    this.logger.error(error instanceof Error ? error.stack : String(error));
    return this.fail(now, unreadable(`The file could not be converted: ${error instanceof Error ? error.message : String(error)}`));
  }

  private async retryOrGiveUp(job: JobRow, why: string): Promise<void> {
    if (job.attempts < MAX_ATTEMPTS) return void (await this.requeue(job));
    await this.fail(job, unreadable(`The conversion was given up after ${job.attempts} attempts (${why}). The file may be too large or damaged for the geometry kernel; export it again, if possible in smaller pieces.`));
  }

  private async requeue(job: JobRow): Promise<void> {
    this.tell(await this.jobs.change(job.id, ['running'], { state: 'queued', stage: 'waiting', progress: 0 }));
    await this.jobs.requeue(job.id);
  }

  private async fail(job: JobRow, problem: Problem): Promise<void> {
    const failed = await this.jobs.change(job.id, ['running', 'queued'], { state: 'failed', stage: 'failed', problem, finished_at: new Date() });
    await this.conversion.discard(job.input, job.model_id);
    this.tell(failed && { ...failed, model_id: null });
  }
}
