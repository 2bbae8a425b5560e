import { Body, Controller, Get, HttpCode, Post, Put } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { KeptState } from '@bathyscope/contracts';
import { SaveViewStateRequest } from '@bathyscope/contracts/requests';
import { IdParam } from '../http/id-param.ts';
import { Author, KnownProfile, Profile } from '../profiles/profile-param.ts';
import { ViewsService } from './views.service.ts';

const Id = () => IdParam();
const Link = () => IdParam('link');

@ApiTags('view states')
@Controller('models/:id')
export class ViewsController {
  constructor(private readonly views: ViewsService) {}

  @Post('links')
  @ApiOperation({ summary: 'A link that reopens exactly this state' })
  async createLink(
    @Author() profile: string,
    @Id() id: string,
    @Body() body: SaveViewStateRequest,
  ): Promise<{ id: string }> {
    return { id: await this.views.createLink(profile, id, body) };
  }

  @Get('links/:link')
  @ApiOperation({ summary: 'The state that a link leads to' })
  link(@Id() id: string, @Link() link: string): Promise<KeptState> {
    return this.views.link(id, link);
  }

  @Get('view-state')
  @ApiOperation({
    summary: 'How this profile left the model, and in which revision; the document is null when it never did',
  })
  lastState(@KnownProfile() profile: string | null, @Id() id: string): Promise<KeptState> {
    return this.views.lastState(profile, id);
  }

  @Put('view-state')
  @HttpCode(204)
  @ApiOperation({ summary: 'Keep how this profile leaves the model' })
  saveLastState(
    @Profile() profile: string,
    @Id() id: string,
    @Body() body: SaveViewStateRequest,
  ): Promise<void> {
    return this.views.saveLastState(profile, id, body);
  }
}
