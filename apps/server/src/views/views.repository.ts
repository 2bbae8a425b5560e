import { Inject, Injectable } from '@nestjs/common';
import type { KeptState, SavedView } from '@bathyscope/contracts';
import type { ViewState } from '@bathyscope/core';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { basePath } from '../process/installation.ts';

interface SavedViewRow {
  id: string;
  model_id: string;
  revision: number;
  name: string;
  slot: number | null;
  recall: SavedView['recall'];
  document: ViewState;
  thumbnail_at: Date | null;
}

const COLUMNS = ['id', 'model_id', 'revision', 'name', 'slot', 'recall', 'document', 'thumbnail_at'];

const savedView = (row: SavedViewRow): SavedView => ({
  id: row.id,
  revision: row.revision,
  name: row.name,
  slot: row.slot,
  recall: row.recall,
  document: row.document,
  thumbnail: row.thumbnail_at
    ? `${basePath()}api/models/${row.model_id}/saved-views/${row.id}/thumbnail?v=${row.thumbnail_at.getTime()}`
    : null,
});

/** What a newer version wrote is not overwritten. */
const notNewer = (table: string): string =>
  `case when jsonb_typeof(${table}.document->'version') = 'number' then (${table}.document->>'version')::numeric else 0 end <= ?`;

export interface SavedViewChange {
  name?: string;
  slot?: number | null;
  document?: ViewState;
  revision?: number;
  recall?: SavedView['recall'];
}

/** Saved views and the states that links lead to. */
@Injectable()
export class ViewsRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  private of(trx: Knex, modelId: string): Knex.QueryBuilder {
    return trx('saved_view').where({ model_id: modelId });
  }

  async list(modelId: string): Promise<SavedView[]> {
    const rows = (await this.of(this.knex, modelId)
      .whereNull('deleted_at')
      .orderBy(['position', 'created_at'])
      .select(COLUMNS)) as SavedViewRow[];
    return rows.map(savedView);
  }

  /** Adds a view at the end; a slot is taken from the view that had it. */
  create(
    owner: string,
    modelId: string,
    revision: number,
    view: { name: string; slot: number | null; document: ViewState },
  ): Promise<SavedView> {
    return this.knex.transaction(async (trx) => {
      await this.inTurn(trx, modelId);
      await this.clearSlot(trx, modelId, view.slot);
      const last = (await this.of(trx, modelId).max('position as last').first()) as { last: number | null };
      const [row] = (await trx('saved_view')
        .insert({
          owner_id: owner,
          model_id: modelId,
          revision,
          name: view.name,
          slot: view.slot,
          document: JSON.stringify(view.document),
          position: (last.last ?? 0) + 1,
        })
        .returning(COLUMNS)) as SavedViewRow[];
      return savedView(row);
    });
  }

  change(modelId: string, id: string, change: SavedViewChange): Promise<SavedView | undefined> {
    return this.knex.transaction(async (trx) => {
      await this.inTurn(trx, modelId);
      if (change.slot) await this.clearSlot(trx, modelId, change.slot);
      const values = {
        ...(change.name !== undefined && { name: change.name }),
        ...(change.slot !== undefined && { slot: change.slot }),
        ...(change.document && { document: JSON.stringify(change.document), revision: change.revision }),
        ...(change.recall && { recall: JSON.stringify(change.recall) }),
      };
      const [row] = (await this.of(trx, modelId)
        .where({ id })
        .whereNull('deleted_at')
        .modify((query: Knex.QueryBuilder) => void (change.document && query.whereRaw(notNewer('saved_view'), change.document.version)))
        .update({ ...values, updated_at: new Date() })
        .returning(COLUMNS)) as SavedViewRow[];
      return row && savedView(row);
    });
  }

  /** One change after the other: which view has a slot, and which is the last, is the model's. */
  private async inTurn(trx: Knex.Transaction, modelId: string): Promise<void> {
    await trx('model').where({ id: modelId }).forNoKeyUpdate().select('id');
  }

  private async clearSlot(trx: Knex, modelId: string, slot: number | null): Promise<void> {
    if (slot !== null) await this.of(trx, modelId).where({ slot }).update({ slot: null });
  }

  async reorder(modelId: string, ids: readonly string[]): Promise<void> {
    await this.knex.transaction(async (trx) => {
      await trx.raw(
        'update saved_view set position = o.position from unnest(?::uuid[]) with ordinality as o(id, position) where saved_view.id = o.id and model_id = ?',
        [[...ids], modelId],
      );
    });
  }

  /** Soft. A view that comes back has its slot only if no other took it meanwhile. */
  setDeleted(modelId: string, id: string, deleted: boolean): Promise<boolean> {
    return this.knex.transaction(async (trx) => {
      await this.inTurn(trx, modelId);
      if (!deleted) {
        const taken = this.of(trx, modelId).whereNull('deleted_at').whereNot({ id }).whereNotNull('slot').select('slot');
        await this.of(trx, modelId).where({ id }).whereIn('slot', taken).update({ slot: null });
      }
      return (
        (await this.of(trx, modelId)
          .where({ id })
          .update({ deleted_at: deleted ? new Date() : null })) > 0
      );
    });
  }

  async thumbnail(modelId: string, id: string): Promise<Buffer | undefined> {
    const row = (await this.of(this.knex, modelId).where({ id }).first('thumbnail')) as { thumbnail: Buffer | null } | undefined;
    return row?.thumbnail ?? undefined;
  }

  async setThumbnail(modelId: string, id: string, png: Buffer): Promise<SavedView | undefined> {
    const [row] = (await this.of(this.knex, modelId)
      .where({ id })
      .update({ thumbnail: png, thumbnail_at: new Date() })
      .returning(COLUMNS)) as SavedViewRow[];
    return row && savedView(row);
  }

  async createLink(owner: string, modelId: string, revision: number, document: ViewState): Promise<string> {
    const [row] = await this.knex('view_link')
      .insert({ owner_id: owner, model_id: modelId, revision, document: JSON.stringify(document) })
      .returning('id');
    return row.id as string;
  }

  async link(modelId: string, id: string): Promise<KeptState | undefined> {
    return this.knex('view_link').where({ model_id: modelId, id }).first<KeptState | undefined>('document', 'revision');
  }

  /** How a profile left a model. */
  async lastState(owner: string, modelId: string): Promise<KeptState | undefined> {
    return this.knex('view_state')
      .where({ owner_id: owner, model_id: modelId, kind: 'last' })
      .first<KeptState | undefined>('document', 'revision');
  }

  /** @returns false when a newer version's stands there */
  async saveLastState(owner: string, modelId: string, revision: number, state: ViewState): Promise<boolean> {
    const document = JSON.stringify(state);
    const rows: unknown[] = await this.knex('view_state')
      .insert({ owner_id: owner, model_id: modelId, revision, kind: 'last', document })
      .onConflict(['model_id', 'owner_id', 'kind'])
      .merge({ document, revision, updated_at: new Date() })
      .whereRaw(notNewer('view_state'), state.version)
      .returning('id');
    return rows.length > 0;
  }
}
