import fs from 'node:fs';
import path from 'node:path';
import { Inject, Injectable, Logger, type OnApplicationBootstrap } from '@nestjs/common';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { UploadService } from './upload.service.ts';

/** Puts the demo models on the shelf, once in the life of a database. */
@Injectable()
export class DemoService implements OnApplicationBootstrap {
  private readonly logger = new Logger('Demo');

  constructor(
    @Inject(KNEX) private readonly knex: Knex,
    private readonly uploads: UploadService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    const folder = process.env['BATHYSCOPE_DEMO'];
    if (!folder || (await this.knex('setting').where({ key: 'demo-loaded' }).first())) return;
    for (const file of fs.readdirSync(folder).filter((f) => /\.step$/i.test(f)).sort()) {
      await this.uploads.take(fs.createReadStream(path.join(folder, file)), file);
      this.logger.log(`Demo model ${file} is being converted.`);
    }
    await this.knex('setting').insert({ key: 'demo-loaded', value: JSON.stringify(true) });
  }
}
