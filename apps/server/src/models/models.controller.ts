import { Body, Controller, Delete, Get, HttpCode, Patch, Post, Put, Query, Req, Res } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { ModelListItem, TagCount } from '@bathyscope/contracts';
import { ChangeModelRequest, ListModelsRequest } from '@bathyscope/contracts/requests';
import type { Request, Response } from 'express';
import { IdParam } from '../http/id-param.ts';
import { ModelDocuments } from './model-documents.ts';
import { ModelsService } from './models.service.ts';
import { sendDetail } from './send-detail.ts';
import { basePath } from '../process/installation.ts';

const PAGE = 200;

@ApiTags('models')
@Controller('models')
export class ModelsController {
  constructor(
    private readonly models: ModelsService,
    private readonly documents: ModelDocuments,
  ) {}

  @Get()
  @ApiOperation({
    summary:
      'A page of the shelf, found and ordered; the header Link leads to the next (RFC 8288), X-Total-Count says how many there are in all',
  })
  async list(
    @Query() { limit = PAGE, after, search = '', tag = '', sort = 'newest' }: ListModelsRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<ModelListItem[]> {
    const [page, total] = await Promise.all([
      this.models.list({ limit, after, search, tag, sort }),
      this.models.count({ search, tag }),
    ]);
    response.set('X-Total-Count', String(total));
    const next = new URLSearchParams({
      limit: String(limit),
      sort,
      ...(search && { search }),
      ...(tag && { tag }),
      after: page.at(-1)?.id ?? '',
    });
    if (page.length === limit) response.set('Link', `<${basePath()}api/models?${next}>; rel="next"`);
    return page;
  }

  @Get('tags')
  @ApiOperation({ summary: 'The tags of the shelf and how many models bear each, the most used first' })
  tags(): Promise<TagCount[]> {
    return this.models.tags();
  }

  @Get(':id')
  @ApiOperation({ summary: 'One model with the structure of its newest revision' })
  async find(@IdParam() id: string, @Req() request: Request, @Res() response: Response): Promise<void> {
    await sendDetail(this.documents, id, undefined, request, response);
  }

  @Patch(':id')
  @ApiOperation({ summary: 'Rename it, or give it other tags' })
  change(@IdParam() id: string, @Body() body: ChangeModelRequest): Promise<ModelListItem> {
    return this.models.change(id, body);
  }

  @Delete(':id')
  @HttpCode(204)
  @ApiOperation({ summary: 'Take off the shelf; can be undone by restore' })
  remove(@IdParam() id: string): Promise<void> {
    return this.models.remove(id);
  }

  @Post(':id/restore')
  @HttpCode(204)
  @ApiOperation({ summary: 'Put a deleted model back' })
  restore(@IdParam() id: string): Promise<void> {
    return this.models.restore(id);
  }

  @Get(':id/thumbnail')
  @ApiOperation({ summary: 'The picture on the shelf (PNG)' })
  async thumbnail(@IdParam() id: string, @Res() response: Response): Promise<void> {
    response
      .set({ 'Cache-Control': 'private, max-age=31536000, immutable' })
      .type('png')
      .send(await this.models.thumbnail(id));
  }

  @Put(':id/thumbnail')
  @HttpCode(204)
  @ApiOperation({ summary: 'Replace the picture on the shelf (PNG body, at most 1 MB)' })
  setThumbnail(@IdParam() id: string, @Req() request: Request): Promise<void> {
    return this.models.setThumbnail(id, request.body as unknown);
  }
}
