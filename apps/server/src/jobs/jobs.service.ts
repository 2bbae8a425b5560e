import { Injectable } from '@nestjs/common';
import type { JobView } from '@bathyscope/contracts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { JobResults } from './job-results.ts';
import { JobsRepository, jobView } from './jobs.repository.ts';

/** Jobs as users see them. Running them is the workers' part. */
@Injectable()
export class JobsService {
  constructor(
    private readonly jobs: JobsRepository,
    private readonly results: JobResults,
  ) {}

  async list(): Promise<JobView[]> {
    return (await this.jobs.list()).map(jobView);
  }

  async find(id: string): Promise<JobView> {
    const job = await this.jobs.find(id);
    if (!job) throw notFound('job');
    return jobView(job);
  }

  /**
   * Cancels a waiting or running job, leaving nothing of it behind that another uses not; a finished one is
   * only put out of sight.
   */
  /**
   * @param asker who cancels @throws ProblemException (409) where others want what it makes, too: then it
   * goes on for them
   */
  async cancel(id: string, asker: string): Promise<void> {
    const became = await this.jobs.cancel(id, asker, (trx, job) =>
      this.results.discard(trx, job.kind, job.input),
    );
    if (became === 'gone') throw notFound('job');
    if (became === 'wanted by others')
      throw new ProblemException(
        409,
        'Wanted by others',
        'Someone else has put the same file on the shelf meanwhile: it goes on for them. Take the model off the shelf when it is ready, if nobody wants it.',
      );
  }
}
