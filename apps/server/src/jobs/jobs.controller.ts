import { Controller, Delete, Get, HttpCode } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { JobView } from '@bathyscope/contracts';
import { IdParam } from '../http/id-param.ts';
import { INSTALLATION } from '../database/migrations.ts';
import { KnownProfile } from '../profiles/profile-param.ts';
import { JobsService } from './jobs.service.ts';

@ApiTags('jobs')
@Controller('jobs')
export class JobsController {
  constructor(private readonly jobs: JobsService) {}

  @Get()
  @ApiOperation({ summary: 'Waiting, running and failed jobs, newest first' })
  list(): Promise<JobView[]> {
    return this.jobs.list();
  }

  @Get(':id')
  @ApiOperation({ summary: 'One job' })
  find(@IdParam() id: string): Promise<JobView> {
    return this.jobs.find(id);
  }

  @Delete(':id')
  @HttpCode(204)
  @ApiOperation({ summary: 'Cancel a job and everything it made, or dismiss a failed one' })
  cancel(@KnownProfile() profile: string | null, @IdParam() id: string): Promise<void> {
    return this.jobs.cancel(id, profile ?? INSTALLATION);
  }
}
