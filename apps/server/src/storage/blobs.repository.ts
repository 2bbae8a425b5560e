import { Inject, Injectable } from '@nestjs/common';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';

/** Bytes. Larger values in one row cost several times their size in memory. */
export const CHUNK = 1 << 20;

/** Bytes in rows of about 1 MB, written one by one: no connection is held while more are on their way. */
@Injectable()
export class BlobsRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  async create(): Promise<string> {
    const [row] = await this.knex('blob').insert({}).returning('id');
    return row.id as string;
  }

  async append(id: string, position: number, bytes: Buffer): Promise<void> {
    await this.knex.transaction(async (trx) => {
      await trx('blob').where({ id }).update({ touched_at: trx.fn.now() });
      await trx('blob_chunk').insert({ blob_id: id, position, bytes });
    });
  }

  async remove(id: string): Promise<void> {
    await this.knex('blob').where({ id }).delete();
  }

  /** The bytes piece by piece, so that none of a large file is held longer than it takes to send. */
  async *pieces(id: string, size: number): AsyncGenerator<Buffer> {
    let at = 0;
    for (let position = 0; at < size; position++) {
      const row = await this.knex('blob_chunk')
        .where({ blob_id: id, position })
        .first<{ bytes: Buffer } | undefined>('bytes');
      if (!row) throw new Error(`Blob ${id} has lost a piece.`);
      yield row.bytes;
      at += row.bytes.length;
    }
  }

  async read(id: string, size: number): Promise<Uint8Array> {
    const bytes = new Uint8Array(size);
    let at = 0;
    for await (const piece of this.pieces(id, size)) {
      bytes.set(piece, at);
      at += piece.length;
    }
    return bytes;
  }
}
