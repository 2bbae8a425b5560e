import { Inject, Injectable } from '@nestjs/common';
import type { Knex } from 'knex';
import { KNEX } from '../database/database.module.ts';
import type { StoredGeometry } from '../kernel/messages.ts';

@Injectable()
export class GeometriesRepository {
  constructor(@Inject(KNEX) private readonly knex: Knex) {}

  /**
   * Stores a geometry, if it is not there, and claims it for a revision: one does not come without the other,
   * so nothing can collect it in between.
   */
  async store(g: StoredGeometry, revisionId: string): Promise<void> {
    await this.knex.transaction(async (trx) => {
      const known = await trx('geometry').where({ hash: g.hash }).update({ touched_at: trx.fn.now() });
      if (!known)
        await trx('geometry')
          .insert({
            hash: g.hash,
            triangles: g.triangles,
            raw_size: g.rawSize,
            container: Buffer.from(g.container),
            shape: g.shape && Buffer.from(g.shape),
          })
          .onConflict('hash')
          .merge({ touched_at: trx.fn.now() });
      await trx('revision_geometry')
        .insert({ revision_id: revisionId, hash: g.hash })
        .onConflict(['revision_id', 'hash'])
        .ignore();
    });
  }

  async exists(hash: string): Promise<boolean> {
    return (await this.knex('geometry').where({ hash }).first('hash')) !== undefined;
  }

  /** The geometry container, brotli. */
  async container(hash: string): Promise<Buffer | undefined> {
    const row = await this.knex('geometry')
      .where({ hash })
      .first<{ container: Buffer } | undefined>('container');
    return row?.container;
  }

  /** The source shape, brotli; null of a mesh alone. */
  async shape(hash: string): Promise<Buffer | null | undefined> {
    const row = await this.knex('geometry')
      .where({ hash })
      .first<{ shape: Buffer | null } | undefined>('shape');
    return row?.shape;
  }
}
