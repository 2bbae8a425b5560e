import { Inject, Injectable } from '@nestjs/common';
import type { KeptState } from '@bathyscope/contracts';
import type { ViewState } from '@bathyscope/core/view-state';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';

/** What a newer version wrote is not overwritten. */
const notNewer = (table: string): string =>
  `case when jsonb_typeof(${table}.document->'version') = 'number' then (${table}.document->>'version')::numeric else 0 end <= ?`;

/** The states that links lead to, and how profiles left models. */
@Injectable()
export class ViewsRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  async createLink(owner: string, modelId: string, revision: number, document: ViewState): Promise<string> {
    const [row] = await this.knex('view_link')
      .insert({ owner_id: owner, model_id: modelId, revision, document: JSON.stringify(document) })
      .returning('id');
    return row.id as string;
  }

  async link(modelId: string, id: string): Promise<KeptState | undefined> {
    return this.knex('view_link')
      .where({ model_id: modelId, id })
      .first<KeptState | undefined>('document', 'revision');
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
