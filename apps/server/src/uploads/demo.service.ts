import { createHash } from 'node:crypto';
import fs from 'node:fs';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { Inject, Injectable, Logger, type OnApplicationBootstrap } from '@nestjs/common';
import type { Knex } from 'knex';
import { installation } from '../process/installation.ts';
import { KNEX } from '../database/database.module.ts';
import { INSTALLATION } from '../database/migrations.ts';
import { patiently } from '../database/failures.ts';
import { ProblemException } from '../problems/problem.ts';
import { UploadsService } from './uploads.service.ts';

/**
 * Puts the demo models on the shelf, each once in the life of a database. Without them
 * the server still serves.
 */
@Injectable()
export class DemoService implements OnApplicationBootstrap {
  private readonly logger = new Logger('Demo');

  constructor(
    @Inject(KNEX) private readonly knex: Knex,
    private readonly uploads: UploadsService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    const folder = installation().BATHYSCOPE_DEMO;
    if (!folder) return;
    await patiently(30, () => this.load(folder)).catch((error: unknown) =>
      this.logger.error(`The demo models could not be loaded: ${String(error)}`),
    );
  }

  /**
   * Each file once, whatever becomes of its model: who took one off the shelf does not get it back. A newer
   * file is a revision of its model.
   */
  private async load(folder: string): Promise<void> {
    const row = (await this.knex('setting').where({ key: LOADED }).first()) as
      { value: true | string[] } | undefined;
    const loaded = row?.value === true ? FIRST_DEMO : (row?.value ?? []);
    const files = fs.readdirSync(folder).filter((f) => /\.step$/i.test(f));
    const hashes: string[] = [];
    for (const file of files.sort()) {
      const hash = `sha256 ${createHash('sha256')
        .update(await readFile(path.join(folder, file)))
        .digest('hex')}`;
      hashes.push(hash);
      if (loaded.includes(hash)) continue;
      const model = loaded.includes(file) ? await this.modelOf(file) : undefined;
      if (model === null) continue;
      const taken = this.uploads.take(
        fs.createReadStream(path.join(folder, file)),
        file,
        INSTALLATION,
        model,
      );
      // What was loaded before hashes were kept may be this very file: then nothing is added.
      const added = await taken.catch((error: unknown) =>
        error instanceof ProblemException ? null : Promise.reject(error as Error),
      );
      if (added && !added.duplicate) this.logger.log(`Demo model ${file} is being converted.`);
    }
    await this.knex('setting')
      .insert({ key: LOADED, value: JSON.stringify([...new Set([...loaded, ...files, ...hashes])]) })
      .onConflict('key')
      .merge();
  }

  /** The model that was made of a demo file; null where it is not there any more. */
  private async modelOf(file: string): Promise<string | null> {
    const row = (await this.knex('revision')
      .join('model', 'model.id', 'model_id')
      .where({ file_name: file, 'revision.owner_id': INSTALLATION })
      .whereNull('model.deleted_at')
      .orderBy('model.created_at')
      .first('model_id')) as { model_id: string } | undefined;
    return row?.model_id ?? null;
  }
}

const LOADED = 'demo-loaded';
/** What there was when only that it was loaded was kept. */
const FIRST_DEMO = ['Ballast valve BV-40.step', 'Lamp housing LH-20.step'];
