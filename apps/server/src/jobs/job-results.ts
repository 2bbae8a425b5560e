import { Injectable } from '@nestjs/common';
import type { Knex } from 'knex';
import { ChecksRepository } from '../storage/checks.repository.ts';
import { lockFile } from '../database/lock-file.ts';
import { ModelsRepository } from '../models/models.repository.ts';
import { SourcesRepository } from '../storage/sources.repository.ts';

export interface ConvertInput {
  revisionId: string;
  fileHash: string;
}

export interface ConvertAgainInput extends ConvertInput {
  /** Version of the converter that is to make it. */
  converter: string;
}

export interface ClashesInput {
  checkId: string;
}

/**
 * What stands for the results of jobs while they are not there yet. Known apart from what computes them,
 * which the web server never loads.
 */
@Injectable()
export class JobResults {
  constructor(
    private readonly checks: ChecksRepository,
    private readonly models: ModelsRepository,
    private readonly sources: SourcesRepository,
  ) {}

  /**
   * Takes back what stands for the result to come, in the transaction that cancels the job or gives it up.
   * What others use stays.
   */
  async discard(trx: Knex.Transaction, kind: string, input: unknown): Promise<void> {
    await this.kinds.get(kind)?.(trx, input as never);
  }

  private readonly kinds = new Map<string, (trx: Knex.Transaction, input: never) => Promise<void>>([
    [
      'convert',
      async (trx, { revisionId, fileHash }: ConvertInput) => {
        await lockFile(trx, fileHash);
        await this.models.removeUnready(trx, revisionId);
        await this.sources.removeUnused(trx, fileHash);
      },
    ],
    [
      'convert-again',
      (trx, { revisionId, converter }: ConvertAgainInput) =>
        this.models.leaveAsItWas(trx, revisionId, converter),
    ],
    ['clashes', (trx, { checkId }: ClashesInput) => this.checks.removeUnfinished(trx, checkId)],
  ]);
}
