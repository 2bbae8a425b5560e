import { Injectable } from '@nestjs/common';
import type { KeptState } from '@bathyscope/contracts';
import type { SaveViewStateRequest } from '@bathyscope/contracts/requests';
import { ModelsService } from '../models/models.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { readViewState } from './view-documents.ts';
import { ViewsRepository } from './views.repository.ts';

const newerStands = (): ProblemException =>
  new ProblemException(
    409,
    'Newer there',
    'What is kept here was made by a newer version of Bathyscope, and stays as it is. Load the page anew, or use the newer version.',
  );

@Injectable()
export class ViewsService {
  constructor(
    private readonly models: ModelsService,
    private readonly views: ViewsRepository,
  ) {}

  async createLink(
    owner: string,
    modelId: string,
    { document, revision }: SaveViewStateRequest,
  ): Promise<string> {
    const newest = await this.models.require(modelId);
    return this.views.createLink(owner, modelId, revision ?? newest, readViewState(document));
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

  async saveLastState(
    owner: string,
    modelId: string,
    { document, revision }: SaveViewStateRequest,
  ): Promise<void> {
    const newest = await this.models.require(modelId);
    if (!(await this.views.saveLastState(owner, modelId, revision ?? newest, readViewState(document))))
      throw newerStands();
  }
}
