import { createHash } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import type { ClashCheck } from '@bathyscope/contracts';
import type { AskClashCheckRequest } from '@bathyscope/contracts/requests';
import { KERNEL_VERSION } from '@bathyscope/kernel';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { INSTALLATION } from '../database/migrations.ts';
import { JobsRepository } from '../jobs/jobs.repository.ts';
import { ModelDocuments } from '../models/model-documents.ts';
import { ModelsRepository } from '../models/models.repository.ts';
import { notFound } from '../problems/problem.ts';
import { ChecksRepository, checkView } from '../storage/checks.repository.ts';

/** What of a model clashes with what: found by a job, kept, and given again while nothing has changed. */
@Injectable()
export class ChecksService {
  constructor(
    @Inject(KNEX) private readonly knex: Knex,
    private readonly checks: ChecksRepository,
    private readonly jobs: JobsRepository,
    private readonly models: ModelsRepository,
    private readonly documents: ModelDocuments,
  ) {}

  /** Begins a check, or gives the one that was begun for the same components before. */
  async ask(
    modelId: string,
    revision: number,
    { about, ...asked }: AskClashCheckRequest,
  ): Promise<ClashCheck> {
    const [among, some] = [asked.among ?? null, asked.some ?? null];
    const places = await this.documents.placesOf(modelId, revision);
    for (const path of [...(among ?? []), ...(some ?? [])])
      if (!places.has(path)) throw notFound('component');
    const key = keyOf(among, some, await this.models.converterOf(modelId, revision));
    const before = await this.checks.same(modelId, revision, key);
    if (before) return checkView(before);
    const name = (await this.models.details(modelId))?.name ?? 'Model';
    const made = await this.knex.transaction(async (trx) => {
      const row = await this.checks.create(trx, {
        model_id: modelId,
        revision,
        about,
        input_key: key,
        among,
        wanted: some,
      });
      if (!row) return undefined;
      const job = await this.jobs.create(trx, {
        kind: 'clashes',
        subject: `${name}: clashes of ${about}`,
        modelId,
        input: { checkId: row.id },
        // Whoever asks the same has it from the one check.
        asker: INSTALLATION,
        lane: 'run_beside',
      });
      return this.checks.runBy(trx, row.id, job.id);
    });
    // Somebody else asked the same at this moment.
    const found = made ?? (await this.checks.same(modelId, revision, key));
    if (!found) throw notFound('check');
    return checkView(found);
  }

  async find(modelId: string, id: string): Promise<ClashCheck> {
    const found = await this.checks.find(id);
    if (found?.model_id !== modelId) throw notFound('check');
    return checkView(found);
  }

  /** The last one of a revision, or null. */
  async newest(modelId: string, revision: number): Promise<ClashCheck | null> {
    const found = await this.checks.newest(modelId, revision);
    return found ? checkView(found) : null;
  }
}

/** What was converted again is checked again. */
const keyOf = (
  among: readonly string[] | null,
  some: readonly string[] | null,
  converter: string | null | undefined,
): string =>
  createHash('sha256')
    .update(
      JSON.stringify([
        KERNEL_VERSION,
        converter,
        among && [...new Set(among)].sort(),
        some && [...new Set(some)].sort(),
      ]),
    )
    .digest('hex');
