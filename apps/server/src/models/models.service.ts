import { Injectable } from '@nestjs/common';
import type { ModelDetail, ModelListItem } from '@bathyscope/contracts';
import { migrateViewState, ViewStateError } from '@bathyscope/core';
import { notFound, ProblemException } from '../problems/problem.ts';
import { ModelsRepository } from './models.repository.ts';

const PNG_SIGNATURE = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);

@Injectable()
export class ModelsService {
  constructor(private readonly models: ModelsRepository) {}

  list(): Promise<ModelListItem[]> {
    return this.models.list();
  }

  async find(id: string): Promise<ModelDetail> {
    const model = await this.models.find(id);
    if (!model) throw notFound('model');
    return model;
  }

  async rename(id: string, name: string): Promise<ModelDetail> {
    if (!(await this.models.rename(id, name.trim()))) throw notFound('model');
    return this.find(id);
  }

  async remove(id: string): Promise<void> {
    await this.find(id);
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
    await this.find(id);
    if (!Buffer.isBuffer(body) || !body.subarray(0, 8).equals(PNG_SIGNATURE)) throw new ProblemException(415, 'Not a picture', 'The picture of a model must be a PNG of at most 1 MB.');
    await this.models.setThumbnail(id, body);
  }

  async viewState(id: string): Promise<unknown> {
    await this.find(id);
    return (await this.models.viewState(id)) ?? null;
  }

  async saveViewState(id: string, document: unknown): Promise<void> {
    await this.find(id);
    try {
      await this.models.saveViewState(id, migrateViewState(document));
    } catch (error) {
      if (error instanceof ViewStateError) throw new ProblemException(422, 'Not a view state', error.message);
      throw error;
    }
  }
}
