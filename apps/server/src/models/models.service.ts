import { Injectable } from '@nestjs/common';
import type { ModelListItem, TagCount } from '@bathyscope/contracts';
import type { ChangeModelRequest } from '@bathyscope/contracts/requests';
import { notFound, ProblemException } from '../problems/problem.ts';
import { ModelsRepository, type ShelfFilter, type ShelfPage } from './models.repository.ts';
import { requirePng } from './require-png.ts';

@Injectable()
export class ModelsService {
  constructor(private readonly models: ModelsRepository) {}

  list(page: ShelfPage & ShelfFilter): Promise<ModelListItem[]> {
    return this.models.list(page);
  }

  count(filter: ShelfFilter): Promise<number> {
    return this.models.count(filter);
  }

  tags(): Promise<TagCount[]> {
    return this.models.tags();
  }

  /** Number of the newest revision. @throws ProblemException when there is no such model */
  async require(id: string): Promise<number> {
    const revision = await this.models.newestRevision(id);
    if (revision === undefined) throw notFound('model');
    return revision;
  }

  /** Tags are kept once each, without what is empty. */
  async change(id: string, { name, tags }: ChangeModelRequest): Promise<ModelListItem> {
    const values = {
      ...(name !== undefined && { name: name.trim() }),
      ...(tags && { tags: [...new Set(tags.map((t) => t.trim()).filter(Boolean))] }),
    };
    const changed = (await this.models.change(id, values)) ? await this.models.listItem(id) : undefined;
    if (!changed) throw notFound('model');
    return changed;
  }

  async remove(id: string): Promise<void> {
    await this.require(id);
    await this.models.remove(id);
  }

  async restore(id: string): Promise<void> {
    const became = await this.models.restore(id);
    if (became === 'gone') throw notFound('model');
    if (typeof became === 'object')
      throw new ProblemException(
        409,
        'There already',
        `The same file was put on the shelf again meanwhile, as “${became.like}”. Use that one; or take it off the shelf first, then put this one back.`,
      );
  }

  async thumbnail(id: string): Promise<Buffer> {
    const png = await this.models.thumbnail(id);
    if (!png) throw notFound('picture');
    return png;
  }

  async setThumbnail(id: string, body: unknown): Promise<void> {
    await this.require(id);
    await this.models.setThumbnail(id, requirePng(body));
  }
}
