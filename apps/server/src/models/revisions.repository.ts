import { Inject, Injectable } from '@nestjs/common';
import type { Likeness, RevisionView } from '@bathyscope/contracts';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { INSTALLATION } from '../database/migrations.ts';

interface RevisionRow {
  revision: number;
  file_name: string;
  size: number;
  state: RevisionView['state'];
  created_at: Date;
  owner_id: string;
  owner_name: string;
  note: string;
}

/** The revisions of models. Which one a model shows is the newest that is ready and not removed. */
@Injectable()
export class RevisionsRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  /** Those that are not removed, the newest first. @param me who asks */
  async list(modelId: string, me: string | null): Promise<RevisionView[]> {
    const rows = (await this.knex('revision')
      .join('source_file', 'source_file.hash', 'revision.file_hash')
      .join('owner', 'owner.id', 'revision.owner_id')
      .where({ model_id: modelId })
      .whereNull('revision.deleted_at')
      .orderBy('revision', 'desc')
      .select(
        'revision',
        'file_name',
        'size',
        'state',
        'revision.created_at',
        'owner_id',
        'owner.name as owner_name',
        'note',
      )) as RevisionRow[];
    return rows.map((row) => ({
      revision: row.revision,
      fileName: row.file_name,
      fileSize: row.size,
      state: row.state,
      createdAt: row.created_at.toISOString(),
      author: row.owner_id === INSTALLATION ? null : { name: row.owner_name, you: row.owner_id === me },
      note: row.note,
    }));
  }

  /**
   * How much a revision has in common with another, which may be of another model.
   * @param to the last one before it where undefined
   */
  async likeness(
    modelId: string,
    revision: number,
    to?: { modelId: string; revision: number },
  ): Promise<Likeness | undefined> {
    const { rows } = (await this.knex.raw(
      `with now as (select structure, length_unit from revision where model_id = :modelId and revision = :revision and state = 'ready'),
         before as (
           select structure, length_unit, revision from revision
           where model_id = :other and state = 'ready' and deleted_at is null and (revision = :to or (:to::int is null and revision < :revision))
           order by revision desc limit 1),
         part as (select part.value as part from now, jsonb_array_elements(structure->'parts') as part),
         known as (select part->>'name' as key from part union select 'geometry ' || (part->>'geometry') from part)
       select before.revision as "to", now.structure->'root'->>'name' = before.structure->'root'->>'name' as "sameRoot",
         jsonb_array_length(now.structure->'parts') as parts, jsonb_array_length(before.structure->'parts') as before,
         (select count(*)::int from jsonb_array_elements(before.structure->'parts') as old
          where old->>'name' in (select key from known) or 'geometry ' || (old->>'geometry') in (select key from known)) as common,
         now.length_unit as "lengthUnit", before.length_unit as "unitBefore"
       from now, before`,
      { modelId, revision, other: to?.modelId ?? modelId, to: to?.revision ?? null },
    )) as { rows: Likeness[] };
    return rows[0];
  }

  /** One change of a model's revisions after the other. @returns whether there is such a model */
  async inTurn(trx: Knex.Transaction, modelId: string): Promise<boolean> {
    return (
      (await trx('model').where({ id: modelId }).whereNull('deleted_at').forUpdate().select('id')).length > 0
    );
  }

  /** The number of the revision that has these bytes, where one has. */
  async withFile(trx: Knex.Transaction, modelId: string, fileHash: string): Promise<number | undefined> {
    const row = (await trx('revision')
      .where({ model_id: modelId, file_hash: fileHash })
      .whereNull('deleted_at')
      .orderBy('revision', 'desc')
      .first('revision')) as { revision: number } | undefined;
    return row?.revision;
  }

  /** The next revision of a model, waiting for conversion. */
  async add(
    trx: Knex.Transaction,
    owner: string,
    modelId: string,
    fileName: string,
    fileHash: string,
  ): Promise<string> {
    const last = (await trx('revision').where({ model_id: modelId }).max('revision as n').first()) as {
      n: number | null;
    };
    const [row] = (await trx('revision')
      .insert({
        owner_id: owner,
        model_id: modelId,
        revision: (last.n ?? 0) + 1,
        file_name: fileName,
        file_hash: fileHash,
      })
      .returning('id')) as { id: string }[];
    return row.id;
  }

  /**
   * Makes a model of one revision the next revision of another, also while it is converted. What somebody
   * keeps of it already would be lost, so then it stays.
   * @returns the number of the revision
   */
  adopt(modelId: string, other: string): Promise<number | 'gone' | 'in use'> {
    return this.knex.transaction(async (trx) => {
      // As a job that ends does: itself first, then what it is of.
      await trx('job').where({ model_id: other }).forUpdate().select('id');
      if (modelId === other || !(await this.inTurn(trx, modelId)) || !(await this.inTurn(trx, other)))
        return 'gone';
      const has = async (table: string) =>
        (await trx(table).where({ model_id: other }).limit(2).select(trx.raw('1'))).length;
      if ((await has('revision')) !== 1 || (await has('record')) || (await has('view_link'))) return 'in use';
      const last = (await trx('revision').where({ model_id: modelId }).max('revision as n').first()) as {
        n: number;
      };
      await trx('revision')
        .where({ model_id: other })
        .update({ model_id: modelId, revision: last.n + 1 });
      await trx('job').where({ model_id: other }).update({ model_id: modelId });
      await trx('model').where({ id: other }).delete();
      await showNewest(trx, modelId);
      return last.n + 1;
    });
  }

  /** @returns whether there is such a revision */
  async setNote(modelId: string, revision: number, note: string): Promise<boolean> {
    return (
      (await this.knex('revision')
        .where({ model_id: modelId, revision })
        .whereNull('deleted_at')
        .update({ note })) > 0
    );
  }

  /** Removes a revision, or puts it back. @returns what kept it from being done, if anything did */
  setDeleted(modelId: string, revision: number, deleted: boolean): Promise<'done' | 'gone' | 'the only one'> {
    return this.knex.transaction(async (trx) => {
      if (!(await this.inTurn(trx, modelId))) return 'gone';
      const others = await trx('revision')
        .where({ model_id: modelId, state: 'ready' })
        .whereNull('deleted_at')
        .whereNot({ revision })
        .select('revision');
      if (deleted && !others.length) return 'the only one';
      const changed = await trx('revision')
        .where({ model_id: modelId, revision, state: 'ready' })
        .update({ deleted_at: deleted ? trx.fn.now() : null });
      if (!changed) return 'gone';
      await showNewest(trx, modelId);
      return 'done';
    });
  }
}

/** The model shows its newest revision that is ready; whoever follows it is told by the change of its row. */
export async function showNewest(trx: Knex.Transaction, modelId: string): Promise<void> {
  await trx('model')
    .where({ id: modelId })
    .update({
      updated_at: trx.fn.now(),
      revision: trx.raw(
        `coalesce((select max(r.revision) from revision r where r.model_id = model.id and r.state = 'ready' and r.deleted_at is null), model.revision)`,
      ),
    });
}
