import { Body, Controller, Get, HttpCode, Post } from '@nestjs/common';
import type { ClashCheck } from '@bathyscope/contracts';
import { AskClashCheckRequest } from '@bathyscope/contracts/requests';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import { IdParam, RevisionParam } from '../http/id-param.ts';
import { ChecksService } from './checks.service.ts';

@ApiTags('clash checks')
@Controller('models/:id/revisions/:revision/clash-checks')
export class ChecksController {
  constructor(private readonly checks: ChecksService) {}

  @Post()
  @HttpCode(200)
  @ApiOperation({
    summary:
      'Find what clashes with what, by a job that goes on when nobody looks; the same question has the same check',
  })
  ask(
    @IdParam() id: string,
    @RevisionParam() revision: number,
    @Body() body: AskClashCheckRequest,
  ): Promise<ClashCheck> {
    return this.checks.ask(id, revision, body);
  }

  @Get()
  @ApiOperation({ summary: 'The last check of a revision, running or done; null when there is none' })
  async newest(
    @IdParam() id: string,
    @RevisionParam() revision: number,
  ): Promise<{ check: ClashCheck | null }> {
    return { check: await this.checks.newest(id, revision) };
  }

  @Get(':check')
  @ApiOperation({ summary: 'One check, with what is found so far' })
  find(@IdParam() id: string, @IdParam('check') check: string): Promise<ClashCheck> {
    return this.checks.find(id, check);
  }
}
