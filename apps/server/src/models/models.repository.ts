import { Inject, Injectable } from '@nestjs/common';
import type { ModelDetail, ModelListItem } from '@bathyscope/contracts';
import type { ModelStructure, ModelSummary } from '@bathyscope/core';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { LOCAL_OWNER } from '../database/migrations.ts';
import type { ConvertOutcome } from '../kernel/messages.ts';

interface ModelRow {
  id: string;
  name: string;
  revision: number;
  file_name: string;
  size: number;
  format: string | null;
  schema: string | null;
  length_unit: string | null;
  created_at: Date;
  updated_at: Date;
  state: 'converting' | 'ready';
  thumbnail_at: Date | null;
  structure: ModelStructure;
  summary: ModelSummary | null;
  warnings: string[];
}

const listItem = (row: ModelRow): ModelListItem => ({
  id: row.id,
  name: row.name,
  revision: row.revision,
  fileName: row.file_name,
  fileSize: row.size,
  format: row.format ?? 'STEP',
  createdAt: row.created_at.toISOString(),
  updatedAt: row.updated_at.toISOString(),
  state: row.state,
  thumbnail: row.thumbnail_at ? `/api/models/${row.id}/thumbnail?v=${row.thumbnail_at.getTime()}` : null,
  summary: row.summary,
});

const LIST_COLUMNS = [
  'model.id', 'model.name', 'model.revision', 'model.created_at', 'model.updated_at',
  'revision.file_name', 'revision.format', 'revision.state', 'revision.thumbnail_at', 'revision.summary', 'source_file.size',
];

@Injectable()
export class ModelsRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  private current(): Knex.QueryBuilder {
    return this.knex('model')
      .join('revision', (on) => on.on('revision.model_id', 'model.id').andOn('revision.revision', 'model.revision'))
      .join('source_file', 'source_file.hash', 'revision.file_hash')
      .where('model.owner_id', LOCAL_OWNER)
      .whereNull('model.deleted_at');
  }

  async list(): Promise<ModelListItem[]> {
    const rows = (await this.current().select(LIST_COLUMNS).orderBy('model.created_at', 'desc')) as ModelRow[];
    return rows.map(listItem);
  }

  async find(id: string): Promise<ModelDetail | undefined> {
    const row = (await this.current().where('model.id', id)
      .first([...LIST_COLUMNS, 'revision.schema', 'revision.length_unit', 'revision.structure', 'revision.warnings'])) as ModelRow | undefined;
    return row && { ...listItem(row), schema: row.schema, lengthUnit: row.length_unit, structure: row.structure, warnings: row.warnings };
  }

  async findByFile(trx: Knex, fileHash: string): Promise<string | undefined> {
    const row = await trx('revision').join('model', 'model.id', 'revision.model_id')
      .where({ file_hash: fileHash }).whereNull('model.deleted_at').orderBy('model.created_at').first('model.id');
    return (row as { id: string } | undefined)?.id;
  }

  /** A model with its first revision, waiting for conversion. */
  async create(trx: Knex, name: string, fileName: string, fileHash: string): Promise<{ modelId: string; revisionId: string }> {
    const [model] = await trx('model').insert({ owner_id: LOCAL_OWNER, name }).returning('id');
    const [revision] = await trx('revision')
      .insert({ owner_id: LOCAL_OWNER, model_id: model.id, revision: 1, file_name: fileName, file_hash: fileHash }).returning('id');
    return { modelId: model.id as string, revisionId: revision.id as string };
  }

  /** Puts the outcome of a conversion in; all of it or nothing. */
  async complete(revisionId: string, outcome: ConvertOutcome, hashes: string[]): Promise<void> {
    await this.knex.transaction(async (trx) => {
      await trx('revision').where({ id: revisionId }).update({
        state: 'ready', format: outcome.format, schema: outcome.schema, length_unit: outcome.lengthUnit,
        structure: JSON.stringify(outcome.structure), summary: JSON.stringify(outcome.summary), warnings: JSON.stringify(outcome.warnings),
      });
      if (hashes.length) await trx('revision_geometry').insert(hashes.map((hash) => ({ revision_id: revisionId, hash })));
    });
  }

  async rename(id: string, name: string): Promise<boolean> {
    return (await this.knex('model').where({ id }).whereNull('deleted_at').update({ name, updated_at: new Date() })) > 0;
  }

  /** Soft: the row stays, so that it can be brought back. */
  async setDeleted(id: string, deleted: boolean): Promise<boolean> {
    return (await this.knex('model').where({ id }).update({ deleted_at: deleted ? new Date() : null })) > 0;
  }

  async removeForGood(id: string): Promise<void> {
    await this.knex('model').where({ id }).delete();
  }

  async thumbnail(id: string): Promise<Buffer | undefined> {
    const row = (await this.current().where('model.id', id).first('revision.thumbnail')) as { thumbnail: Buffer | null } | undefined;
    return row?.thumbnail ?? undefined;
  }

  async setThumbnail(id: string, png: Buffer): Promise<void> {
    await this.knex('revision').where('model_id', id)
      .where('revision', this.knex('model').where({ id }).select('revision')).update({ thumbnail: png, thumbnail_at: new Date() });
  }

  async viewState(id: string): Promise<unknown> {
    const row = await this.knex('view_state').where({ model_id: id, owner_id: LOCAL_OWNER, kind: 'last' }).first<{ document: unknown }>('document');
    return row?.document;
  }

  async saveViewState(id: string, document: object): Promise<void> {
    await this.knex('view_state')
      .insert({ owner_id: LOCAL_OWNER, model_id: id, revision: 1, kind: 'last', document: JSON.stringify(document) })
      .onConflict(['model_id', 'owner_id', 'kind'])
      .merge({ document: JSON.stringify(document), updated_at: new Date() });
  }
}
