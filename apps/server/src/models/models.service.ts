import { Injectable } from '@nestjs/common';
import type { ModelDetail, ModelListItem } from '@bathyscope/contracts';
import { migrateViewState, ViewStateError, type ViewState } from '@bathyscope/core';
import { notFound, ProblemException } from '../problems/problem.ts';
import { ModelsRepository } from './models.repository.ts';
import { requirePng } from './require-png.ts';

/** A view-state document of a request, checked. @throws ProblemException with a sentence */
export function readViewState(document: unknown): ViewState {
  try {
    return migrateViewState(document);
  } catch (error) {
    if (error instanceof ViewStateError) throw new ProblemException(422, 'Not a view state', error.message);
    throw error;
  }
}

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
    await this.models.setThumbnail(id, requirePng(body));
  }

  async viewState(id: string): Promise<unknown> {
    await this.find(id);
    return (await this.models.viewState(id)) ?? null;
  }

  async saveViewState(id: string, document: unknown): Promise<void> {
    await this.find(id);
    await this.models.saveViewState(id, readViewState(document));
  }
}
