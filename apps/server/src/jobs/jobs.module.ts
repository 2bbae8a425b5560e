import { Module } from '@nestjs/common';
import { ProfilesModule } from '../profiles/profiles.module.ts';
import { JobResultsModule } from './job-results.module.ts';
import { JobsController } from './jobs.controller.ts';
import { JobsRepository } from './jobs.repository.ts';
import { JobsService } from './jobs.service.ts';

@Module({
  imports: [JobResultsModule, ProfilesModule],
  controllers: [JobsController],
  providers: [JobsService, JobsRepository],
  exports: [JobsRepository],
})
export class JobsModule {}
