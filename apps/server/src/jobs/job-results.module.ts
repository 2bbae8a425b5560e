import { Module } from '@nestjs/common';
import { ChecksRepository } from '../storage/checks.repository.ts';
import { ModelsModule } from '../models/models.module.ts';
import { BlobsRepository } from '../storage/blobs.repository.ts';
import { SourcesRepository } from '../storage/sources.repository.ts';
import { JobResults } from './job-results.ts';

@Module({
  imports: [ModelsModule],
  providers: [JobResults, ChecksRepository, SourcesRepository, BlobsRepository],
  exports: [JobResults],
})
export class JobResultsModule {}
