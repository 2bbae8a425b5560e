import { Injectable } from '@nestjs/common';
import type { Likeness, RevisionView } from '@bathyscope/contracts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { SourcesRepository, type SourceFile } from '../storage/sources.repository.ts';
import { ModelsService } from './models.service.ts';
import { RevisionsRepository } from './revisions.repository.ts';

/** Why something cannot be done, by what the tables say. */
const REFUSALS = {
  'the only one': {
    title: 'The only revision',
    detail:
      'This is the only revision of the model that is ready. Take the model itself off the shelf, or add another revision first.',
  },
  'in use': {
    title: 'In use already',
    detail:
      'Something is kept of that model already, or it has revisions of its own, so it stays a model. Add its file as a new revision instead.',
  },
} as const;

const refused = (why: keyof typeof REFUSALS): ProblemException =>
  new ProblemException(409, REFUSALS[why].title, REFUSALS[why].detail);

@Injectable()
export class RevisionsService {
  constructor(
    private readonly models: ModelsService,
    private readonly revisions: RevisionsRepository,
    private readonly sources: SourcesRepository,
  ) {}

  async list(id: string, me: string | null): Promise<RevisionView[]> {
    await this.models.require(id);
    return this.revisions.list(id, me);
  }

  /** Its file, as it was sent. */
  async source(id: string, revision: number): Promise<SourceFile> {
    const file = await this.sources.ofRevision(id, revision);
    if (!file) throw notFound('revision of a model');
    return file;
  }

  /** @param model of which the newest revision is compared with, where it is not the one before */
  async likeness(id: string, revision: number, model?: string): Promise<Likeness> {
    await this.models.require(id);
    const to =
      model === undefined ? undefined : { modelId: model, revision: await this.models.require(model) };
    const found = await this.revisions.likeness(id, revision, to);
    if (!found) throw notFound('revision of a model that could be compared');
    return found;
  }

  async setNote(id: string, revision: number, note: string): Promise<void> {
    if (!(await this.revisions.setNote(id, revision, note.trim()))) throw notFound('revision of a model');
  }

  async setDeleted(id: string, revision: number, deleted: boolean): Promise<void> {
    const became = await this.revisions.setDeleted(id, revision, deleted);
    if (became === 'gone') throw notFound('revision of a model');
    if (became !== 'done') throw refused(became);
  }

  /** @returns the number that a model gets as a revision of another */
  async adopt(id: string, model: string): Promise<number> {
    const became = await this.revisions.adopt(id, model);
    if (became === 'gone') throw notFound('model');
    if (became === 'in use') throw refused(became);
    return became;
  }
}
