import { Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Sse, type MessageEvent } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { JobView } from '@bathyscope/contracts';
import { interval, map, merge, type Observable } from 'rxjs';
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

  @Sse('events')
  @ApiOperation({ summary: 'Every change of every job, as server-sent events' })
  events(): Observable<MessageEvent> {
    const alive = interval(25_000).pipe(map((): MessageEvent => ({ type: 'alive', data: '' })));
    return merge(this.jobs.changes.pipe(map((job): MessageEvent => ({ type: 'job', data: job }))), alive);
  }

  @Get(':id')
  @ApiOperation({ summary: 'One job' })
  find(@Param('id', ParseUUIDPipe) id: string): Promise<JobView> {
    return this.jobs.find(id);
  }

  @Delete(':id')
  @HttpCode(204)
  @ApiOperation({ summary: 'Cancel a job and everything it made, or dismiss a failed one' })
  cancel(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.jobs.cancel(id);
  }
}
