import { Inject, Injectable } from '@nestjs/common';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { LOCAL_OWNER } from '../database/migrations.ts';

type Values = Record<string, unknown>;

/** What a user set about the interface and about single models. */
@Injectable()
export class PreferencesRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  async settings(): Promise<Values | null> {
    return (
      (await this.knex('user_setting').where({ owner_id: LOCAL_OWNER }).first<{ document: Values } | undefined>('document'))?.document ??
      null
    );
  }

  async saveSettings(values: Values): Promise<void> {
    const document = JSON.stringify(values);
    await this.knex('user_setting')
      .insert({ owner_id: LOCAL_OWNER, document })
      .onConflict('owner_id')
      .merge({ document, updated_at: new Date() });
  }

  async ofModel(modelId: string): Promise<Values | null> {
    return (
      (
        await this.knex('model_preference')
          .where({ owner_id: LOCAL_OWNER, model_id: modelId })
          .first<{ document: Values } | undefined>('document')
      )?.document ?? null
    );
  }

  async saveOfModel(modelId: string, values: Values): Promise<void> {
    const document = JSON.stringify(values);
    await this.knex('model_preference')
      .insert({ owner_id: LOCAL_OWNER, model_id: modelId, document })
      .onConflict(['model_id', 'owner_id'])
      .merge({ document, updated_at: new Date() });
  }
}
