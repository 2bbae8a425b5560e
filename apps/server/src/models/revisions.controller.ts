import { Body, Controller, Delete, Get, HttpCode, Param, ParseIntPipe, Patch, Post, Req, Res } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { RevisionView } from '@bathyscope/contracts';
import { AdoptModelRequest, ChangeRevisionRequest } from '@bathyscope/contracts/requests';
import type { Request, Response } from 'express';
import { IdParam } from '../http/id-param.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { KnownProfile } from '../profiles/profile-param.ts';
import { ModelDocuments } from './model-documents.ts';
import { ModelsService } from './models.service.ts';
import { RevisionsRepository } from './revisions.repository.ts';
import { sendDetail } from './send-detail.ts';

const Revision = () => Param('revision', ParseIntPipe);

@ApiTags('revisions')
@Controller('models/:id/revisions')
export class RevisionsController {
  constructor(
    private readonly models: ModelsService,
    private readonly revisions: RevisionsRepository,
    private readonly documents: ModelDocuments,
  ) {}

  @Get()
  @ApiOperation({ summary: 'The revisions of a model, the newest first; those that are being converted are among them' })
  async list(@KnownProfile() me: string | null, @IdParam() id: string): Promise<RevisionView[]> {
    await this.models.require(id);
    return this.revisions.list(id, me);
  }

  @Get(':revision')
  @ApiOperation({ summary: 'One revision of a model with its structure, as the model itself is given for the newest' })
  async find(@IdParam() id: string, @Revision() revision: number, @Req() request: Request, @Res() response: Response): Promise<void> {
    await sendDetail(this.documents, id, revision, request, response);
  }

  @Post('adopt')
  @HttpCode(200)
  @ApiOperation({ summary: 'Make another model, of which nothing is kept yet, the next revision of this one' })
  async adopt(@IdParam() id: string, @Body() { model }: AdoptModelRequest): Promise<{ revision: number }> {
    const became = await this.revisions.adopt(id, model);
    if (became === 'gone') throw notFound('model');
    if (became === 'in use')
      throw new ProblemException(
        409,
        'In use already',
        'Something is kept of that model already, or it has revisions of its own, so it stays a model. Add its file as a new revision instead.',
      );
    return { revision: became };
  }

  @Patch(':revision')
  @HttpCode(204)
  @ApiOperation({ summary: 'Say a line about a revision' })
  async change(@IdParam() id: string, @Revision() revision: number, @Body() { note }: ChangeRevisionRequest): Promise<void> {
    if (!(await this.revisions.setNote(id, revision, note.trim()))) throw notFound('revision of a model');
  }

  @Delete(':revision')
  @HttpCode(204)
  @ApiOperation({ summary: 'Remove a revision; can be undone by restore' })
  remove(@IdParam() id: string, @Revision() revision: number): Promise<void> {
    return this.setDeleted(id, revision, true);
  }

  @Post(':revision/restore')
  @HttpCode(204)
  @ApiOperation({ summary: 'Put a removed revision back' })
  restore(@IdParam() id: string, @Revision() revision: number): Promise<void> {
    return this.setDeleted(id, revision, false);
  }

  private async setDeleted(id: string, revision: number, deleted: boolean): Promise<void> {
    const became = await this.revisions.setDeleted(id, revision, deleted);
    if (became === 'gone') throw notFound('revision of a model');
    if (became === 'the only one')
      throw new ProblemException(
        409,
        'The only revision',
        'This is the only revision of the model that is ready. Take the model itself off the shelf, or add another revision first.',
      );
  }
}
