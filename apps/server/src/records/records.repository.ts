import type { KeptRecord, RecordChange } from '@bathyscope/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { basePath } from '../process/installation.ts';

/** Of a record, as those who decide about a change of it need it. */
export interface StoredRecord {
  id: string;
  model_id: string;
  kind: string;
  version: number;
  document: unknown;
  position: number;
  deleted_at: Date | null;
  rev: number;
  made_on: number;
}

/** Which of a model's records: those that are kept, those in the bin, or those named. */
export type Wanted = 'kept' | 'bin' | readonly string[];

/** Read at once: a model may have tens of thousands. */
const PAGE = 1000;

const who = (alias: string): string =>
  `case when ${alias}.id is null then null else json_build_object('name', ${alias}.name, 'you', ${alias}.id is not distinct from :me::uuid) end`;
const time = (column: string): string =>
  `to_char(${column} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`;
const PICTURE = `case when taken_at is not null
    then :base || 'api/models/' || record.model_id || '/records/' || record.id || '/picture\\?v=' || round(extract(epoch from taken_at) * 1000) end`;
const SELECT = `
  select record.id, json_build_object('id', record.id, 'kind', record.kind, 'version', record.version, 'document', record.document,
    'position', record.position, 'picture', ${PICTURE}, 'madeOn', record.made_on, 'author', ${who('author')}, 'changedBy', ${who('changer')},
    'createdAt', ${time('record.created_at')}, 'changedAt', ${time('record.changed_at')}, 'deletedAt', ${time('record.deleted_at')},
    'rev', record.rev)::text as text
  from record left join owner author on author.id = record.author left join owner changer on changer.id = record.changed_by
    left join record_picture on record_id = record.id
  where record.model_id = :modelId`;

@Injectable()
export class RecordsRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  /**
   * Pages of records, each as the text of its JSON, so that this process neither reads nor writes them.
   * @param me who asks
   */
  async *pages(
    modelId: string,
    wanted: Wanted,
    me: string | null,
    knex: Knex = this.knex,
  ): AsyncGenerator<string[]> {
    const which =
      wanted === 'kept'
        ? 'and record.deleted_at is null'
        : wanted === 'bin'
          ? 'and record.deleted_at is not null'
          : 'and record.id = any (:ids::uuid[])';
    for (let after = '00000000-0000-0000-0000-000000000000'; ;) {
      const { rows } = (await knex.raw(
        `${SELECT} ${which} and record.id > :after order by record.id limit ${PAGE}`,
        {
          modelId,
          me,
          base: basePath(),
          after,
          ids: typeof wanted === 'string' ? [] : [...wanted],
        },
      )) as { rows: { id: string; text: string }[] };
      yield rows.map(({ text }) => text);
      if (rows.length < PAGE) return;
      after = rows[rows.length - 1].id;
    }
  }

  async named(
    modelId: string,
    ids: readonly string[],
    me: string | null,
    trx?: Knex,
  ): Promise<Map<string, KeptRecord>> {
    const found = new Map<string, KeptRecord>();
    for await (const page of this.pages(modelId, ids, me, trx))
      for (const text of page) {
        const record = JSON.parse(text) as KeptRecord;
        found.set(record.id, record);
      }
    return found;
  }

  /** Runs alone among changes of one model's records. */
  inTurn<T>(modelId: string, work: (trx: Knex.Transaction) => Promise<T>): Promise<T> {
    return this.knex.transaction(async (trx) => {
      await trx('model').where({ id: modelId }).forNoKeyUpdate().select('id');
      return work(trx);
    });
  }

  async stored(trx: Knex, ids: readonly string[]): Promise<Map<string, StoredRecord>> {
    const rows = (await trx('record')
      .whereIn('id', [...ids])
      .select(
        'id',
        'model_id',
        'kind',
        'version',
        'document',
        'position',
        'deleted_at',
        'rev',
        'made_on',
      )) as StoredRecord[];
    return new Map(rows.map((row) => [row.id, row]));
  }

  async count(trx: Knex, modelId: string): Promise<number> {
    const row = (await trx('record').where({ model_id: modelId }).count('* as n').first()) as { n: number };
    return row.n;
  }

  async insert(
    trx: Knex,
    author: string,
    modelId: string,
    revision: number,
    changes: readonly RecordChange[],
  ): Promise<void> {
    if (!changes.length) return;
    await trx.raw(
      `insert into record (id, model_id, kind, version, document, position, author, changed_by, made_on, deleted_at)
       select id, :modelId, kind, version, document, position, :author, :author, coalesce("madeOn", :revision), case when deleted then now() end
       from jsonb_to_recordset(:changes::jsonb) as r (id uuid, kind text, version int, document jsonb, position double precision, deleted boolean, "madeOn" int)`,
      { modelId, author, revision, changes: JSON.stringify(changes) },
    );
  }

  async update(trx: Knex, author: string, changes: readonly RecordChange[]): Promise<void> {
    if (!changes.length) return;
    await trx.raw(
      `update record set version = r.version, document = r.document, position = r.position, changed_by = :author, changed_at = now(), rev = rev + 1, made_on = coalesce(r."madeOn", made_on),
         deleted_at = case when r.deleted then coalesce(record.deleted_at, now()) end
       from jsonb_to_recordset(:changes::jsonb) as r (id uuid, version int, document jsonb, position double precision, deleted boolean, "madeOn" int)
       where record.id = r.id`,
      { author, changes: JSON.stringify(changes) },
    );
  }

  async picture(modelId: string, id: string): Promise<Buffer | undefined> {
    const row = (await this.knex('record_picture')
      .join('record', 'record.id', 'record_id')
      .where({ model_id: modelId, record_id: id })
      .first('picture')) as { picture: Buffer } | undefined;
    return row?.picture;
  }

  /**
   * The record counts it as a change, so that whoever follows it is told. @returns
   * whether there is such a record
   */
  setPicture(modelId: string, id: string, picture: Buffer): Promise<boolean> {
    return this.knex.transaction(async (trx) => {
      const there = await trx('record').where({ model_id: modelId, id }).increment('rev');
      if (!there) return false;
      await trx('record_picture')
        .insert({ record_id: id, picture })
        .onConflict('record_id')
        .merge({ picture, taken_at: trx.fn.now() });
      return true;
    });
  }

  /** Takes a record out of the bin for good. @returns whether it lay there */
  async purge(modelId: string, id: string): Promise<boolean> {
    return (
      (await this.knex('record').where({ model_id: modelId, id }).whereNotNull('deleted_at').delete()) > 0
    );
  }
}
