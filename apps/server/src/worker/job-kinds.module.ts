import { Module } from '@nestjs/common';
import { GeometriesModule } from '../geometries/geometries.module.ts';
import { JOB_KINDS } from '../jobs/job-kind.ts';
import { ConverterService } from '../kernel/converter.service.ts';
import { ModelsRepository } from '../models/models.repository.ts';
import { BlobsRepository } from '../uploads/blobs.repository.ts';
import { SourcesRepository } from '../uploads/sources.repository.ts';
import { ConvertJob } from './convert.job.ts';

/** The registry of job kinds: a new one is a class beside this and an entry here. */
const KINDS = [ConvertJob];

@Module({
  imports: [GeometriesModule],
  providers: [
    ConverterService,
    ModelsRepository,
    SourcesRepository,
    BlobsRepository,
    ...KINDS,
    { provide: JOB_KINDS, useFactory: (...kinds) => kinds, inject: KINDS },
  ],
  exports: [JOB_KINDS, ConverterService],
})
export class JobKindsModule {}
