import type { ModelPreferences } from '@bathyscope/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';

type Values = Record<string, unknown>;

/** What a profile set about the interface, and what was set about single models. */
@Injectable()
export class PreferencesRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  async settings(owner: string): Promise<Values | null> {
    const row = await this.knex('user_setting').where({ owner_id: owner }).first<{ document: Values } | undefined>('document');
    return row?.document ?? null;
  }

  /** Puts these beside what is there, each by its name. */
  async saveSettings(owner: string, values: Values): Promise<void> {
    const document = JSON.stringify(values);
    await this.knex('user_setting')
      .insert({ owner_id: owner, document })
      .onConflict('owner_id')
      .merge({ document: this.knex.raw('user_setting.document || excluded.document'), updated_at: new Date() });
  }

  async ofModel(modelId: string): Promise<ModelPreferences> {
    const row = await this.knex('model_preference')
      .where({ model_id: modelId })
      .first<{ document: Values; version: number } | undefined>('document', 'version');
    return row ? { values: row.document, version: row.version } : { values: null, version: 0 };
  }

  /** Stores what was made of a version. @returns the version it is now, or null when there is a newer one than that */
  async saveOfModel(owner: string, modelId: string, values: Values, version: number): Promise<number | null> {
    const document = JSON.stringify(values);
    const changed = { owner_id: owner, document, version: version + 1, updated_at: new Date() };
    const rows: unknown[] =
      version === 0
        ? await this.knex('model_preference')
            .insert({ model_id: modelId, ...changed })
            .onConflict('model_id')
            .ignore()
            .returning('version')
        : await this.knex('model_preference').where({ model_id: modelId, version }).update(changed).returning('version');
    return rows.length ? version + 1 : null;
  }
}
