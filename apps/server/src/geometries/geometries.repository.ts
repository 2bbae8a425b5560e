import { Inject, Injectable } from '@nestjs/common';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import { LOCAL_OWNER } from '../database/migrations.ts';
import type { StoredGeometry } from '../kernel/messages.ts';

@Injectable()
export class GeometriesRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  async store(g: StoredGeometry): Promise<void> {
    await this.knex('geometry')
      .insert({
        hash: g.hash, owner_id: LOCAL_OWNER, triangles: g.triangles, raw_size: g.rawSize,
        container: Buffer.from(g.container), shape: Buffer.from(g.shape),
      })
      .onConflict('hash')
      .ignore();
  }

  /** The geometry container, brotli. */
  async container(hash: string): Promise<Buffer | undefined> {
    const row = await this.knex('geometry').where({ hash }).first<{ container: Buffer }>('container');
    return row?.container;
  }

  /** The source shape, brotli. */
  async shape(hash: string): Promise<Buffer | undefined> {
    const row = await this.knex('geometry').where({ hash }).first<{ shape: Buffer }>('shape');
    return row?.shape;
  }

  async removeUnused(): Promise<void> {
    await this.knex('geometry').whereNotExists(this.knex('revision_geometry').whereRaw('revision_geometry.hash = geometry.hash').select(this.knex.raw('1'))).delete();
  }
}
