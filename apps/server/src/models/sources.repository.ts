import { Inject, Injectable } from '@nestjs/common';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';

/** Source files in rows of about 1 MB: large values in one row cost several times their size in memory. */
export const CHUNK = 1 << 20;

@Injectable()
export class SourcesRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  async read(hash: string): Promise<Uint8Array> {
    const file = await this.knex('source_file').where({ hash }).first<{ size: number }>('size');
    if (!file) throw new Error(`Source file ${hash} is gone.`);
    const bytes = new Uint8Array(file.size);
    let at = 0;
    for (let position = 0; at < file.size; position++) {
      const row = await this.knex('source_chunk').where({ hash, position }).first<{ bytes: Buffer }>('bytes');
      if (!row) throw new Error(`Source file ${hash} has lost a piece.`);
      bytes.set(row.bytes, at);
      at += row.bytes.length;
    }
    return bytes;
  }

  async removeUnused(hash: string): Promise<void> {
    await this.knex('source_file').where({ hash })
      .whereNotExists(this.knex('revision').whereRaw('revision.file_hash = source_file.hash').select(this.knex.raw('1'))).delete();
  }
}
