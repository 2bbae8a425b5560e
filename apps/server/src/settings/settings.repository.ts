import { Inject, Injectable } from '@nestjs/common';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';

type Values = Record<string, unknown>;

/** What a profile set about the interface. */
@Injectable()
export class SettingsRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  async find(owner: string): Promise<Values | null> {
    const row = await this.knex('user_setting')
      .where({ owner_id: owner })
      .first<{ document: Values } | undefined>('document');
    return row?.document ?? null;
  }

  /** Puts these beside what is there, each by its name. */
  async save(owner: string, values: Values): Promise<void> {
    const document = JSON.stringify(values);
    await this.knex('user_setting')
      .insert({ owner_id: owner, document })
      .onConflict('owner_id')
      .merge({
        document: this.knex.raw('user_setting.document || excluded.document'),
        updated_at: new Date(),
      });
  }
}
