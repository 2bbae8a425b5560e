import { Body, Controller, Delete, Get, HttpCode, Patch, Post, Put, Req, Res } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { KeptState, SavedView } from '@bathyscope/contracts';
import {
  ChangeSavedViewRequest,
  CreateSavedViewRequest,
  OrderSavedViewsRequest,
  SaveViewStateRequest,
} from '@bathyscope/contracts/requests';
import type { Request, Response } from 'express';
import { IdParam } from '../http/id-param.ts';
import { Author, KnownProfile, Profile } from '../profiles/profile-param.ts';
import { ViewsService } from './views.service.ts';

const Id = () => IdParam();
const View = () => IdParam('view');

@ApiTags('saved views')
@Controller('models/:id')
export class ViewsController {
  constructor(private readonly views: ViewsService) {}

  @Get('saved-views')
  @ApiOperation({ summary: 'The saved views of a model, in their order' })
  list(@Id() id: string): Promise<SavedView[]> {
    return this.views.list(id);
  }

  @Post('saved-views')
  @ApiOperation({ summary: 'Save a view; a slot is taken from the view that had it' })
  create(@Author() profile: string, @Id() id: string, @Body() body: CreateSavedViewRequest): Promise<SavedView> {
    return this.views.create(profile, id, body);
  }

  @Put('saved-views/order')
  @HttpCode(204)
  @ApiOperation({ summary: 'Put the saved views in this order' })
  reorder(@Id() id: string, @Body() body: OrderSavedViewsRequest): Promise<void> {
    return this.views.reorder(id, body.ids);
  }

  @Patch('saved-views/:view')
  @ApiOperation({ summary: 'Rename, overwrite, give a slot, or say what is recalled' })
  change(@Id() id: string, @View() view: string, @Body() body: ChangeSavedViewRequest): Promise<SavedView> {
    return this.views.change(id, view, body);
  }

  @Delete('saved-views/:view')
  @HttpCode(204)
  @ApiOperation({ summary: 'Delete; can be undone by restore' })
  remove(@Id() id: string, @View() view: string): Promise<void> {
    return this.views.setDeleted(id, view, true);
  }

  @Post('saved-views/:view/restore')
  @HttpCode(204)
  @ApiOperation({ summary: 'Bring a deleted view back' })
  restore(@Id() id: string, @View() view: string): Promise<void> {
    return this.views.setDeleted(id, view, false);
  }

  @Get('saved-views/:view/thumbnail')
  @ApiOperation({ summary: 'The picture of a saved view (PNG)' })
  async thumbnail(@Id() id: string, @View() view: string, @Res() response: Response): Promise<void> {
    response
      .set({ 'Cache-Control': 'private, max-age=31536000, immutable' })
      .type('png')
      .send(await this.views.thumbnail(id, view));
  }

  @Put('saved-views/:view/thumbnail')
  @ApiOperation({ summary: 'Replace the picture of a saved view (PNG body, at most 1 MB)' })
  setThumbnail(@Id() id: string, @View() view: string, @Req() request: Request): Promise<SavedView> {
    return this.views.setThumbnail(id, view, request.body as unknown);
  }

  @Post('links')
  @ApiOperation({ summary: 'A link that reopens exactly this state' })
  async createLink(@Author() profile: string, @Id() id: string, @Body() body: SaveViewStateRequest): Promise<{ id: string }> {
    return { id: await this.views.createLink(profile, id, body.document) };
  }

  @Get('links/:view')
  @ApiOperation({ summary: 'The state that a link leads to' })
  link(@Id() id: string, @View() link: string): Promise<KeptState> {
    return this.views.link(id, link);
  }

  @Get('view-state')
  @ApiOperation({ summary: 'How this profile left the model, and in which revision; the document is null when it never did' })
  lastState(@KnownProfile() profile: string | null, @Id() id: string): Promise<KeptState> {
    return this.views.lastState(profile, id);
  }

  @Put('view-state')
  @HttpCode(204)
  @ApiOperation({ summary: 'Keep how this profile leaves the model' })
  saveLastState(@Profile() profile: string, @Id() id: string, @Body() body: SaveViewStateRequest): Promise<void> {
    return this.views.saveLastState(profile, id, body.document);
  }
}
