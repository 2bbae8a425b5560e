import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import {
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Param,
  ParseIntPipe,
  Patch,
  Post,
  Query,
  Req,
  Res,
} from '@nestjs/common';
import { ApiOperation, ApiProduces, ApiTags } from '@nestjs/swagger';
import type { Likeness, RevisionView } from '@bathyscope/contracts';
import { AdoptModelRequest, ChangeRevisionRequest, LikenessRequest } from '@bathyscope/contracts/requests';
import type { Request, Response } from 'express';
import { IdParam } from '../http/id-param.ts';
import { KnownProfile } from '../profiles/profile-param.ts';
import { ModelDocuments } from './model-documents.ts';
import { RevisionsService } from './revisions.service.ts';
import { sendDetail } from './send-detail.ts';

const Revision = () => Param('revision', ParseIntPipe);

@ApiTags('revisions')
@Controller('models/:id/revisions')
export class RevisionsController {
  constructor(
    private readonly revisions: RevisionsService,
    private readonly documents: ModelDocuments,
  ) {}

  @Get()
  @ApiOperation({
    summary: 'The revisions of a model, the newest first; those that are being converted are among them',
  })
  list(@KnownProfile() me: string | null, @IdParam() id: string): Promise<RevisionView[]> {
    return this.revisions.list(id, me);
  }

  @Get(':revision')
  @ApiOperation({
    summary: 'One revision of a model with its structure, as the model itself is given for the newest',
    description:
      'Parts name their geometry by hash, which `GET /api/geometries/{hash}` gives; counts, box, volume and inertia of all stand in `summary`. For instance: `curl http://localhost:4600/api/models/ID/revisions/2`. All figures of a revision, sections, holes, measurements and clashes among them: `bin/inspect http://localhost:4600/models/ID/revisions/2 --json --holes`.',
  })
  async find(
    @IdParam() id: string,
    @Revision() revision: number,
    @Req() request: Request,
    @Res() response: Response,
  ): Promise<void> {
    await sendDetail(this.documents, id, revision, request, response);
  }

  @Get(':revision/source')
  @ApiOperation({ summary: 'The file of a revision, byte for byte as it was sent' })
  @ApiProduces('application/octet-stream')
  async source(
    @IdParam() id: string,
    @Revision() revision: number,
    @Res() response: Response,
  ): Promise<void> {
    const file = await this.revisions.source(id, revision);
    response.attachment(file.fileName);
    // Whatever its ending says: it is a file to be kept, and nothing to be shown.
    response.set({
      'Content-Type': 'application/octet-stream',
      'Content-Length': String(file.size),
      'Cache-Control': 'no-store',
    });
    await pipeline(Readable.from(file.pieces), response).catch((error: NodeJS.ErrnoException) => {
      if (error.code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
    });
  }

  @Get(':revision/likeness')
  @ApiOperation({
    summary: 'What a revision has in common with the one before it, or with the newest of another model',
  })
  likeness(
    @IdParam() id: string,
    @Revision() revision: number,
    @Query() { to }: LikenessRequest,
  ): Promise<Likeness> {
    return this.revisions.likeness(id, revision, to);
  }

  @Post('adopt')
  @HttpCode(200)
  @ApiOperation({
    summary: 'Make another model, of which nothing is kept yet, the next revision of this one',
  })
  async adopt(@IdParam() id: string, @Body() { model }: AdoptModelRequest): Promise<{ revision: number }> {
    return { revision: await this.revisions.adopt(id, model) };
  }

  @Patch(':revision')
  @HttpCode(204)
  @ApiOperation({ summary: 'Say a line about a revision' })
  change(
    @IdParam() id: string,
    @Revision() revision: number,
    @Body() { note }: ChangeRevisionRequest,
  ): Promise<void> {
    return this.revisions.setNote(id, revision, note);
  }

  @Delete(':revision')
  @HttpCode(204)
  @ApiOperation({ summary: 'Remove a revision; can be undone by restore' })
  remove(@IdParam() id: string, @Revision() revision: number): Promise<void> {
    return this.revisions.setDeleted(id, revision, true);
  }

  @Post(':revision/restore')
  @HttpCode(204)
  @ApiOperation({ summary: 'Put a removed revision back' })
  restore(@IdParam() id: string, @Revision() revision: number): Promise<void> {
    return this.revisions.setDeleted(id, revision, false);
  }
}
