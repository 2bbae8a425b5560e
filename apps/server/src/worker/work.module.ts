import { Module } from '@nestjs/common';
import { BinRepository } from '../bin/bin.repository.ts';
import { DatabaseModule } from '../database/database.module.ts';
import { JobResultsModule } from '../jobs/job-results.module.ts';
import { JobsRepository } from '../jobs/jobs.repository.ts';
import { Garbage } from './garbage.ts';
import { JobKindsModule } from './job-kinds.module.ts';
import { JobRunner } from './job-runner.ts';
import { Outdated } from './outdated.ts';
import { WorkLoop } from './work-loop.ts';

/** A worker process: takes jobs from the queue, one of each lane at a time. */
@Module({
  imports: [DatabaseModule, JobKindsModule, JobResultsModule],
  providers: [JobsRepository, JobRunner, BinRepository, Garbage, Outdated, WorkLoop],
})
export class WorkModule {}
