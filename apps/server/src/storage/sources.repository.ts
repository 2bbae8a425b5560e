import { Inject, Injectable } from '@nestjs/common';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { BlobsRepository } from './blobs.repository.ts';

/** A file as it was sent, piece by piece. */
export interface SourceFile {
  fileName: string;
  size: number;
  pieces: AsyncGenerator<Buffer>;
}

/** Source files, known by the SHA-256 of their bytes. */
@Injectable()
export class SourcesRepository {
  constructor(
    @Inject(KNEX) private readonly knex: Knex,
    private readonly blobs: BlobsRepository,
  ) {}

  /** The file of a revision as it was sent; undefined where there is none. */
  async ofRevision(modelId: string, revision: number): Promise<SourceFile | undefined> {
    const row = (await this.knex('revision')
      .join('model', 'model.id', 'revision.model_id')
      .join('source_file', 'source_file.hash', 'revision.file_hash')
      .where({ model_id: modelId, 'revision.revision': revision })
      .whereNull('model.deleted_at')
      .first('file_name', 'size', 'blob_id')) as
      { file_name: string; size: number; blob_id: string } | undefined;
    return (
      row && { fileName: row.file_name, size: row.size, pieces: this.blobs.pieces(row.blob_id, row.size) }
    );
  }

  async read(hash: string): Promise<Uint8Array> {
    const file = await this.knex('source_file')
      .where({ hash })
      .first<{ size: number; blob_id: string } | undefined>('size', 'blob_id');
    if (!file) throw new Error(`Source file ${hash} is gone.`);
    return this.blobs.read(file.blob_id, file.size);
  }

  /** Makes received bytes a source file. @returns false when the same bytes were there already */
  async adopt(trx: Knex.Transaction, hash: string, size: number, blobId: string): Promise<boolean> {
    const [row] = await trx('source_file')
      .insert({ hash, size, blob_id: blobId })
      .onConflict('hash')
      .merge({ touched_at: trx.fn.now() })
      .returning('blob_id');
    return row.blob_id === blobId;
  }

  /** Under `lockFile`. */
  async removeUnused(trx: Knex.Transaction, hash: string): Promise<void> {
    const [gone] = await trx('source_file')
      .where({ hash })
      .whereNotExists(trx('revision').whereRaw('revision.file_hash = source_file.hash').select(trx.raw('1')))
      .delete()
      .returning('blob_id');
    if (gone) await trx('blob').where({ id: gone.blob_id }).delete();
  }
}
