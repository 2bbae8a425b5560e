import { Injectable } from '@nestjs/common';
import type { ModelListItem } from '@bathyscope/contracts';
import { notFound } from '../problems/problem.ts';
import { ModelsRepository } from './models.repository.ts';
import { requirePng } from './require-png.ts';

@Injectable()
export class ModelsService {
  constructor(private readonly models: ModelsRepository) {}

  list(limit: number, after?: string): Promise<ModelListItem[]> {
    return this.models.list(limit, after);
  }

  count(): Promise<number> {
    return this.models.count();
  }

  /** Number of the newest revision. @throws ProblemException when there is no such model */
  async require(id: string): Promise<number> {
    const revision = await this.models.newestRevision(id);
    if (revision === undefined) throw notFound('model');
    return revision;
  }

  async rename(id: string, name: string): Promise<ModelListItem> {
    const renamed = (await this.models.rename(id, name.trim())) ? await this.models.listItem(id) : undefined;
    if (!renamed) throw notFound('model');
    return renamed;
  }

  async remove(id: string): Promise<void> {
    await this.require(id);
    await this.models.setDeleted(id, true);
  }

  async restore(id: string): Promise<void> {
    if (!(await this.models.setDeleted(id, false))) throw notFound('model');
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
