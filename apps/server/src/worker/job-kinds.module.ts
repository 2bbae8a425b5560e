import { Module } from '@nestjs/common';
import { ChecksRepository } from '../storage/checks.repository.ts';
import { GeometriesModule } from '../geometries/geometries.module.ts';
import { JOB_KINDS } from '../jobs/job-kind.ts';
import { ConverterService } from '../kernel/converter.service.ts';
import { Answerer } from '../kernel/answerer.ts';
import { QuestionThreads } from '../kernel/question-threads.ts';
import { ModelsModule } from '../models/models.module.ts';
import { QuestionsService } from '../questions/questions.service.ts';
import { BlobsRepository } from '../storage/blobs.repository.ts';
import { SourcesRepository } from '../storage/sources.repository.ts';
import { ClashesJob } from './clashes.job.ts';
import { ConvertAgainJob } from './convert-again.job.ts';
import { ConvertJob } from './convert.job.ts';

/** The registry of job kinds: a new one is a class beside this and an entry here. */
const KINDS = [ConvertJob, ConvertAgainJob, ClashesJob];

@Module({
  imports: [GeometriesModule, ModelsModule],
  providers: [
    ConverterService,
    { provide: Answerer, useClass: QuestionThreads },
    QuestionsService,
    ChecksRepository,
    SourcesRepository,
    BlobsRepository,
    ...KINDS,
    { provide: JOB_KINDS, useFactory: (...kinds) => kinds, inject: KINDS },
  ],
  exports: [JOB_KINDS, ConverterService],
})
export class JobKindsModule {}
