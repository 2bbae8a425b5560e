import { Injectable } from '@nestjs/common';
import type { KeptState, SavedView } from '@bathyscope/contracts';
import type { ChangeSavedViewRequest, CreateSavedViewRequest } from '@bathyscope/contracts/requests';
import { requirePng } from '../models/require-png.ts';
import { ModelsService } from '../models/models.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { liftViewState, readViewState } from './view-documents.ts';
import { ViewsRepository } from './views.repository.ts';

const newerStands = (): ProblemException =>
  new ProblemException(
    409,
    'Newer there',
    'What is kept here was made by a newer version of Bathyscope, and stays as it is. Load the page anew, or use the newer version.',
  );

const lifted = (view: SavedView): SavedView => ({ ...view, document: liftViewState(view.document) });

@Injectable()
export class ViewsService {
  constructor(
    private readonly models: ModelsService,
    private readonly views: ViewsRepository,
  ) {}

  async list(modelId: string): Promise<SavedView[]> {
    await this.models.require(modelId);
    return (await this.views.list(modelId)).map(lifted);
  }

  async create(owner: string, modelId: string, { name, slot, document }: CreateSavedViewRequest): Promise<SavedView> {
    const revision = await this.models.require(modelId);
    return this.views.create(owner, modelId, revision, { name: name.trim(), slot: slot ?? null, document: readViewState(document) });
  }

  async change(modelId: string, id: string, { name, slot, document, recall }: ChangeSavedViewRequest): Promise<SavedView> {
    const revision = await this.models.require(modelId);
    const view = await this.views.change(modelId, id, {
      name: name?.trim(),
      slot,
      recall,
      ...(document && { document: readViewState(document), revision }),
    });
    if (!view) throw document && (await this.views.list(modelId)).some((v) => v.id === id) ? newerStands() : notFound('saved view');
    return lifted(view);
  }

  async reorder(modelId: string, ids: string[]): Promise<void> {
    await this.models.require(modelId);
    await this.views.reorder(modelId, ids);
  }

  async setDeleted(modelId: string, id: string, deleted: boolean): Promise<void> {
    await this.models.require(modelId);
    if (!(await this.views.setDeleted(modelId, id, deleted))) throw notFound('saved view');
  }

  async thumbnail(modelId: string, id: string): Promise<Buffer> {
    const png = await this.views.thumbnail(modelId, id);
    if (!png) throw notFound('picture');
    return png;
  }

  async setThumbnail(modelId: string, id: string, body: unknown): Promise<SavedView> {
    const view = await this.views.setThumbnail(modelId, id, requirePng(body));
    if (!view) throw notFound('saved view');
    return view;
  }

  async createLink(owner: string, modelId: string, document: unknown): Promise<string> {
    const revision = await this.models.require(modelId);
    return this.views.createLink(owner, modelId, revision, readViewState(document));
  }

  async link(modelId: string, id: string): Promise<KeptState> {
    await this.models.require(modelId);
    const state = await this.views.link(modelId, id);
    if (!state) throw notFound('linked view');
    return state;
  }

  /** How a profile left a model; without a document when it never did. */
  async lastState(owner: string | null, modelId: string): Promise<KeptState> {
    const revision = await this.models.require(modelId);
    return (owner && (await this.views.lastState(owner, modelId))) || { document: null, revision };
  }

  async saveLastState(owner: string, modelId: string, document: unknown): Promise<void> {
    const revision = await this.models.require(modelId);
    if (!(await this.views.saveLastState(owner, modelId, revision, readViewState(document)))) throw newerStands();
  }
}
