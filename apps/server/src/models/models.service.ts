import { Injectable } from '@nestjs/common';
import type { ModelListItem } from '@bathyscope/contracts';
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

/** A document as it was stored, lifted to the present version; one that this version cannot read is given as it is. */
export function liftViewState(document: ViewState): ViewState {
  try {
    return migrateViewState(document);
  } catch {
    return document;
  }
}

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

  async viewState(id: string): Promise<unknown> {
    await this.require(id);
    return (await this.models.viewState(id)) ?? null;
  }

  async saveViewState(id: string, document: unknown): Promise<void> {
    await this.require(id);
    await this.models.saveViewState(id, readViewState(document));
  }
}
