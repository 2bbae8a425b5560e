import { Injectable } from '@nestjs/common';
import type { Finish, JobKind, RunningJob } from '../jobs/job-kind.ts';
import type { ConvertAgainInput } from '../jobs/job-results.ts';
import { ConvertJob } from './convert.job.ts';

/**
 * Converts a model again that an older converter made. What it made is served until this is ready;
 * should it fail, it stays.
 */
@Injectable()
export class ConvertAgainJob implements JobKind<ConvertAgainInput> {
  readonly kind = 'convert-again';
  readonly givenUp = {
    title: 'The model stays as it was converted',
    detail: 'Converting it again failed. What is there still holds.',
  };

  constructor(private readonly conversion: ConvertJob) {}

  run(input: ConvertAgainInput, job: RunningJob): Promise<Finish> {
    return this.conversion.convert(input, job, 'again');
  }
}
