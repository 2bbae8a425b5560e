import { Inject, Injectable } from '@nestjs/common';
import type { ModelDetail, ModelListItem, ShelfOrder, TagCount } from '@bathyscope/contracts';
import type { ModelSummary } from '@bathyscope/core/model';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { lockFile } from '../database/lock-file.ts';
import type { ConvertOutcome } from '../kernel/messages.ts';
import { showNewest } from './revisions.repository.ts';
import { basePath } from '../process/installation.ts';

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
  summary: ModelSummary | null;
  warnings: string[];
  tags: string[];
}

const listItem = (row: ModelRow): ModelListItem => ({
  id: row.id,
  name: row.name,
  revision: row.revision,
  fileName: row.file_name,
  fileSize: row.size,
  format: row.format,
  createdAt: row.created_at.toISOString(),
  updatedAt: row.updated_at.toISOString(),
  state: row.state,
  thumbnail: row.thumbnail_at
    ? `${basePath()}api/models/${row.id}/thumbnail?v=${row.thumbnail_at.getTime()}`
    : null,
  summary: row.summary,
  tags: row.tags,
});

const LIST_COLUMNS = [
  'model.id',
  'model.name',
  'model.revision',
  'model.tags',
  'model.created_at',
  'model.updated_at',
  'revision.file_name',
  'revision.format',
  'revision.state',
  'revision.thumbnail_at',
  'revision.summary',
  'source_file.size',
];

/** A page of the shelf as it is asked for. */
export interface ShelfPage {
  limit: number;
  after?: string;
  sort: ShelfOrder;
}

/** What is wanted of the shelf. */
export interface ShelfFilter {
  /** Words that the name, the file’s name or a tag holds. */
  search: string;
  /** Empty for any. */
  tag: string;
}

const ORDERS: Record<ShelfOrder, { by: string; order: 'asc' | 'desc'; sign: '<' | '>' }> = {
  newest: { by: 'model.created_at', order: 'desc', sign: '<' },
  name: { by: 'lower(model.name)', order: 'asc', sign: '>' },
  size: { by: 'source_file.size', order: 'desc', sign: '<' },
};

@Injectable()
export class ModelsRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  private current(): Knex.QueryBuilder {
    return this.all().whereRaw('revision.revision = model.revision');
  }

  /** A removed one too: somebody may have it open. */
  private at(revision: number): Knex.QueryBuilder {
    return this.all().where('revision.revision', revision);
  }

  private all(): Knex.QueryBuilder {
    return this.knex('model')
      .join('revision', 'revision.model_id', 'model.id')
      .join('source_file', 'source_file.hash', 'revision.file_hash')
      .whereNull('model.deleted_at');
  }

  /** One page of the shelf. @param after the last model of the page before; one that is gone begins anew */
  async list({ limit, after, sort, ...filter }: ShelfPage & ShelfFilter): Promise<ModelListItem[]> {
    const { by, order, sign } = ORDERS[sort];
    const query = this.found(filter)
      .select(LIST_COLUMNS)
      .orderByRaw(`${by} ${order}, model.id ${order}`)
      .limit(limit);
    // Times have microseconds in the database and milliseconds here, so they are compared there.
    const last = after && this.current().where('model.id', after).select(this.knex.raw(by), 'model.id');
    if (last && (await last.clone().first())) void query.whereRaw(`(${by}, model.id) ${sign} (?)`, [last]);
    return ((await query) as ModelRow[]).map(listItem);
  }

  private found({ search, tag }: ShelfFilter): Knex.QueryBuilder {
    const query = this.current();
    if (tag) void query.whereRaw('? = any (model.tags)', [tag]);
    for (const word of search.split(/\s+/).filter(Boolean)) {
      const like = `%${word.replace(/[\\%_]/g, '\\$&')}%`;
      void query.whereRaw(
        "(model.name || ' ' || revision.file_name || ' ' || array_to_string(model.tags, ' ')) ilike ?",
        [like],
      );
    }
    return query;
  }

  async count(filter: ShelfFilter): Promise<number> {
    const row = (await this.found(filter).count('* as n').first()) as { n: number };
    return row.n;
  }

  /** The tags of the shelf, the most used first. */
  async tags(): Promise<TagCount[]> {
    const rows = await this.current()
      .joinRaw('cross join unnest(model.tags) as tag')
      .groupBy('tag')
      .select('tag')
      .count('* as count')
      .orderByRaw('2 desc, 1');
    return rows as TagCount[];
  }

  async listItem(id: string): Promise<ModelListItem | undefined> {
    const row = (await this.current().where('model.id', id).first(LIST_COLUMNS)) as ModelRow | undefined;
    return row && listItem(row);
  }

  /** Number of the newest revision; undefined when there is no such model. */
  async newestRevision(id: string): Promise<number | undefined> {
    const row = (await this.knex('model').where({ id }).whereNull('deleted_at').first('revision')) as
      { revision: number } | undefined;
    return row?.revision;
  }

  /** All of a model but its structure. @param revision the newest where undefined */
  async details(id: string, revision?: number): Promise<Omit<ModelDetail, 'structure'> | undefined> {
    const row = (await (revision === undefined ? this.current() : this.at(revision))
      .where('model.id', id)
      .first([
        ...LIST_COLUMNS,
        'revision.revision as shown',
        'revision.schema',
        'revision.length_unit',
        'revision.warnings',
      ])) as (ModelRow & { shown: number }) | undefined;
    return (
      row && {
        ...listItem(row),
        revision: row.shown,
        newest: row.revision,
        schema: row.schema,
        lengthUnit: row.length_unit,
        warnings: row.warnings,
      }
    );
  }

  /**
   * What converted a revision, which changes with its structure; undefined when there is no such revision.
   */
  async converterOf(id: string, revision: number): Promise<string | null | undefined> {
    const row = (await this.knex('revision')
      .join('model', 'model.id', 'revision.model_id')
      .where({ model_id: id, 'revision.revision': revision })
      .whereNull('model.deleted_at')
      .first('revision.converter')) as { converter: string | null } | undefined;
    return row?.converter;
  }

  /**
   * The structure of a revision as JSON text; null while it is being converted, undefined when there is none.
   */
  async structureText(id: string, revision: number): Promise<string | null | undefined> {
    const row = (await this.knex('revision')
      .join('model', 'model.id', 'revision.model_id')
      .where({ model_id: id, 'revision.revision': revision })
      .whereNull('model.deleted_at')
      .first(this.knex.raw('revision.structure::text as text'))) as { text: string | null } | undefined;
    return row?.text;
  }

  async findByFile(trx: Knex, fileHash: string): Promise<string | undefined> {
    const row = await trx('revision')
      .join('model', 'model.id', 'revision.model_id')
      .where({ file_hash: fileHash })
      .whereNull('model.deleted_at')
      .whereNull('revision.deleted_at')
      .orderBy('model.created_at')
      .first('model.id');
    return (row as { id: string } | undefined)?.id;
  }

  /** A model with its first revision, waiting for conversion. */
  async create(
    trx: Knex,
    owner: string,
    name: string,
    fileName: string,
    fileHash: string,
  ): Promise<{ modelId: string; revisionId: string }> {
    const [model] = await trx('model').insert({ owner_id: owner, name }).returning('id');
    const [revision] = await trx('revision')
      .insert({ owner_id: owner, model_id: model.id, revision: 1, file_name: fileName, file_hash: fileHash })
      .returning('id');
    return { modelId: model.id as string, revisionId: revision.id as string };
  }

  /**
   * Makes a revision ready, in the transaction that ends its job. What an attempt before stored and this one
   * did not is claimed no longer.
   */
  async complete(
    trx: Knex.Transaction,
    revisionId: string,
    outcome: ConvertOutcome,
    hashes: string[],
  ): Promise<void> {
    await trx('revision')
      .where({ id: revisionId })
      .update({
        state: 'ready',
        format: outcome.format,
        schema: outcome.schema,
        length_unit: outcome.lengthUnit,
        structure: JSON.stringify(outcome.structure),
        summary: JSON.stringify(outcome.summary),
        warnings: JSON.stringify(outcome.warnings),
        converter: outcome.converter,
      });
    await trx('revision_geometry')
      .where({ revision_id: revisionId })
      .whereRaw('not (hash = any(?))', [hashes])
      .delete();
    const { model_id: model } = (await trx('revision').where({ id: revisionId }).first('model_id')) as {
      model_id: string;
    };
    await showNewest(trx, model);
  }

  /**
   * A revision that could not be converted again: not tried by this converter any more, and what it stored on
   * the way is claimed no longer.
   */
  async leaveAsItWas(trx: Knex.Transaction, revisionId: string, converter: string): Promise<void> {
    await trx('revision').where({ id: revisionId }).update({ converter });
    await trx('revision_geometry')
      .where({ revision_id: revisionId })
      .whereRaw(
        `hash not in (select part->>'geometry' from revision, jsonb_array_elements(structure->'parts') as part
           where revision.id = ? and part->>'geometry' is not null)`,
        [revisionId],
      )
      .delete();
  }

  /**
   * Removes a revision that never became ready, and its model when it has no other. A ready
   * one stays, whoever asks.
   */
  async removeUnready(trx: Knex.Transaction, revisionId: string): Promise<void> {
    const [gone] = (await trx('revision')
      .where({ id: revisionId, state: 'converting' })
      .delete()
      .returning('model_id')) as {
      model_id: string;
    }[];
    if (gone)
      await trx('model')
        .where({ id: gone.model_id })
        .whereNotExists(trx('revision').where({ model_id: gone.model_id }).select(trx.raw('1')))
        .delete();
  }

  async change(id: string, values: { name?: string; tags?: string[] }): Promise<boolean> {
    return (
      (await this.knex('model')
        .where({ id })
        .whereNull('deleted_at')
        .update({ ...values, updated_at: new Date() })) > 0
    );
  }

  /** Soft: the row stays, so that it can be brought back. */
  async remove(id: string): Promise<void> {
    await this.knex('model').where({ id }).update({ deleted_at: new Date() });
  }

  /**
   * @returns the name of the model that has the same bytes and came meanwhile, where there is one: then
   * nothing is changed
   */
  restore(id: string): Promise<'restored' | 'gone' | { like: string }> {
    return this.knex.transaction(async (trx) => {
      const row = await trx('revision')
        .join('model', 'model.id', 'revision.model_id')
        .where({ model_id: id })
        .whereRaw('revision.revision = model.revision')
        .first<{ file_hash: string; deleted_at: Date | null } | undefined>('file_hash', 'model.deleted_at');
      if (!row) return 'gone';
      await lockFile(trx, row.file_hash);
      const like = await trx('revision')
        .join('model', 'model.id', 'revision.model_id')
        .where({ file_hash: row.file_hash })
        .whereNull('model.deleted_at')
        .where('model.created_at', '>', row.deleted_at ?? 'infinity')
        .first<{ name: string } | undefined>('model.name');
      if (like) return { like: like.name };
      return (await trx('model').where({ id }).update({ deleted_at: null })) > 0 ? 'restored' : 'gone';
    });
  }

  async thumbnail(id: string): Promise<Buffer | undefined> {
    const row = (await this.current().where('model.id', id).first('revision.thumbnail')) as
      { thumbnail: Buffer | null } | undefined;
    return row?.thumbnail ?? undefined;
  }

  async setThumbnail(id: string, png: Buffer): Promise<void> {
    await this.knex('revision')
      .where('model_id', id)
      .where('revision', this.knex('model').where({ id }).select('revision'))
      .update({ thumbnail: png, thumbnail_at: new Date() });
  }
}
