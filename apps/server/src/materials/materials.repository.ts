import type { OwnMaterial } from '@bathyscope/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';

const COLUMNS = ['id', 'name', 'family', 'density', 'spread', 'source'] as const;

/** Materials that were added to the library. */
@Injectable()
export class MaterialsRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  list(): Promise<OwnMaterial[]> {
    return this.knex<OwnMaterial>('own_material')
      .select(...COLUMNS)
      .orderBy('name');
  }

  /** @returns whether another material has that name */
  async isTaken(name: string, id: string): Promise<boolean> {
    return Boolean(
      await this.knex('own_material').whereRaw('lower(name) = lower(?)', name).whereNot({ id }).first('id'),
    );
  }

  async save(owner: string, material: OwnMaterial): Promise<void> {
    const row = { ...material, owner_id: owner, updated_at: new Date() };
    await this.knex('own_material').insert(row).onConflict('id').merge();
  }

  async remove(id: string): Promise<void> {
    await this.knex('own_material').where({ id }).delete();
  }
}
