import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post, Put, Req, Res } from '@nestjs/common';
import { ApiBody, ApiConsumes, ApiOperation, ApiTags } from '@nestjs/swagger';
import type { ModelDetail, ModelListItem, UploadResult } from '@bathyscope/contracts';
import { RenameModelRequest, SaveViewStateRequest } from '@bathyscope/contracts/requests';
import type { Request, Response } from 'express';
import { ModelsService } from './models.service.ts';
import { UploadService } from './upload.service.ts';

@ApiTags('models')
@Controller('models')
export class ModelsController {
  constructor(
    private readonly models: ModelsService,
    private readonly uploads: UploadService,
  ) {}

  @Get()
  @ApiOperation({ summary: 'The shelf: all models, newest first' })
  list(): Promise<ModelListItem[]> {
    return this.models.list();
  }

  @Post()
  @ApiOperation({ summary: 'Upload a STEP file; its conversion is a job' })
  @ApiConsumes('multipart/form-data')
  @ApiBody({ schema: { type: 'object', properties: { file: { type: 'string', format: 'binary' } } } })
  upload(@Req() request: Request): Promise<UploadResult> {
    return this.uploads.receive(request);
  }

  @Get(':id')
  @ApiOperation({ summary: 'One model with its structure' })
  find(@Param('id', ParseUUIDPipe) id: string): Promise<ModelDetail> {
    return this.models.find(id);
  }

  @Patch(':id')
  @ApiOperation({ summary: 'Rename' })
  rename(@Param('id', ParseUUIDPipe) id: string, @Body() body: RenameModelRequest): Promise<ModelDetail> {
    return this.models.rename(id, body.name);
  }

  @Delete(':id')
  @HttpCode(204)
  @ApiOperation({ summary: 'Take off the shelf; can be undone by restore' })
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.models.remove(id);
  }

  @Post(':id/restore')
  @HttpCode(204)
  @ApiOperation({ summary: 'Put a deleted model back' })
  restore(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.models.restore(id);
  }

  @Get(':id/thumbnail')
  @ApiOperation({ summary: 'The picture on the shelf (PNG)' })
  async thumbnail(@Param('id', ParseUUIDPipe) id: string, @Res() response: Response): Promise<void> {
    response.set({ 'Cache-Control': 'private, max-age=31536000, immutable' }).type('png').send(await this.models.thumbnail(id));
  }

  @Put(':id/thumbnail')
  @HttpCode(204)
  @ApiOperation({ summary: 'Replace the picture on the shelf (PNG body, at most 1 MB)' })
  setThumbnail(@Param('id', ParseUUIDPipe) id: string, @Req() request: Request): Promise<void> {
    return this.models.setThumbnail(id, request.body as unknown);
  }

  @Get(':id/view-state')
  @ApiOperation({ summary: 'The last state of the model, or null' })
  async viewState(@Param('id', ParseUUIDPipe) id: string): Promise<{ document: unknown }> {
    return { document: await this.models.viewState(id) };
  }

  @Put(':id/view-state')
  @HttpCode(204)
  @ApiOperation({ summary: 'Keep the last state of the model' })
  saveViewState(@Param('id', ParseUUIDPipe) id: string, @Body() body: SaveViewStateRequest): Promise<void> {
    return this.models.saveViewState(id, body.document);
  }
}
