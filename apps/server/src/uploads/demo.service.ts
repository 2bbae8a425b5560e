import fs from 'node:fs';
import path from 'node:path';
import { Inject, Injectable, Logger, type OnApplicationBootstrap } from '@nestjs/common';
import type { Knex } from 'knex';
import { installation } from '../process/installation.ts';
import { KNEX } from '../database/database.module.ts';
import { patiently } from '../database/failures.ts';
import { UploadsService } from './uploads.service.ts';

/** Puts the demo models on the shelf, each once in the life of a database. Without them the server still serves. */
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

  /** Each file once, whatever becomes of its model: who took one off the shelf does not get it back. */
  private async load(folder: string): Promise<void> {
    const row = (await this.knex('setting').where({ key: LOADED }).first()) as { value: true | string[] } | undefined;
    const loaded = row?.value === true ? FIRST_DEMO : (row?.value ?? []);
    const files = fs.readdirSync(folder).filter((f) => /\.step$/i.test(f));
    for (const file of files.filter((f) => !loaded.includes(f)).sort()) {
      const { duplicate } = await this.uploads.take(fs.createReadStream(path.join(folder, file)), file);
      if (!duplicate) this.logger.log(`Demo model ${file} is being converted.`);
    }
    await this.knex('setting')
      .insert({ key: LOADED, value: JSON.stringify([...new Set([...loaded, ...files])]) })
      .onConflict('key')
      .merge();
  }
}

const LOADED = 'demo-loaded';
/** What there was when only that it was loaded was kept. */
const FIRST_DEMO = ['Ballast valve BV-40.step', 'Lamp housing LH-20.step'];
