import fs from 'node:fs';
import path from 'node:path';
import { Inject, Injectable, Logger, type OnApplicationBootstrap } from '@nestjs/common';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { patiently } from '../database/failures.ts';
import { UploadsService } from './uploads.service.ts';

/** Puts the demo models on the shelf, once in the life of a database. Without them the server still serves. */
@Injectable()
export class DemoService implements OnApplicationBootstrap {
  private readonly logger = new Logger('Demo');

  constructor(
    @Inject(KNEX) private readonly knex: Knex,
    private readonly uploads: UploadsService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    const folder = process.env['BATHYSCOPE_DEMO'];
    if (!folder) return;
    await patiently(30, () => this.load(folder)).catch((error: unknown) =>
      this.logger.error(`The demo models could not be loaded: ${String(error)}`),
    );
  }

  private async load(folder: string): Promise<void> {
    if (await this.knex('setting').where({ key: 'demo-loaded' }).first()) return;
    for (const file of fs
      .readdirSync(folder)
      .filter((f) => /\.step$/i.test(f))
      .sort()) {
      const { duplicate } = await this.uploads.take(fs.createReadStream(path.join(folder, file)), file);
      if (!duplicate) this.logger.log(`Demo model ${file} is being converted.`);
    }
    await this.knex('setting')
      .insert({ key: 'demo-loaded', value: JSON.stringify(true) })
      .onConflict('key')
      .ignore();
  }
}
