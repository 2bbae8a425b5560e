import { Inject, Injectable } from '@nestjs/common';
import type { JobView } from '@bathyscope/contracts';
import { notFound } from '../problems/problem.ts';
import { JOB_KINDS, type JobKind } from './job-kind.ts';
import { JobsRepository, jobView } from './jobs.repository.ts';

/** Jobs as users see them. Running them is the workers' part. */
@Injectable()
export class JobsService {
  constructor(
    private readonly jobs: JobsRepository,
    @Inject(JOB_KINDS) private readonly kinds: readonly JobKind[],
  ) {}

  async list(): Promise<JobView[]> {
    return (await this.jobs.list()).map(jobView);
  }

  async find(id: string): Promise<JobView> {
    const job = await this.jobs.find(id);
    if (!job) throw notFound('job');
    return jobView(job);
  }

  /** Cancels a waiting or running job, leaving nothing of it behind that another uses not; a finished one is only put out of sight. */
  async cancel(id: string): Promise<void> {
    const found = await this.jobs.cancel(id, async (trx, job) => this.kinds.find((k) => k.kind === job.kind)?.discard(trx, job.input));
    if (!found) throw notFound('job');
  }
}
