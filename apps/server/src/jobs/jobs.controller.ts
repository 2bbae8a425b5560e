import { Controller, Delete, Get, Head, HttpCode, Sse, type MessageEvent } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { JobView } from '@bathyscope/contracts';
import { interval, map, merge, takeUntil, type Observable } from 'rxjs';
import { IdParam } from '../http/id-param.ts';
import { JobEvents } from './job-events.ts';
import { JobsService } from './jobs.service.ts';

const ALIVE = 25_000;

@ApiTags('jobs')
@Controller('jobs')
export class JobsController {
  constructor(
    private readonly jobs: JobsService,
    private readonly events: JobEvents,
  ) {}

  @Get()
  @ApiOperation({ summary: 'Waiting, running and failed jobs, newest first' })
  list(): Promise<JobView[]> {
    return this.jobs.list();
  }

  @Head('events')
  @HttpCode(200)
  @ApiOperation({ summary: 'Whether there are events' })
  headOfEvents(): void {}

  @Sse('events')
  @ApiOperation({
    summary:
      'Every change of every job, as server-sent events; ends when something may have been missed, so that the list is asked for again',
  })
  stream(): Observable<MessageEvent> {
    const alive = interval(ALIVE).pipe(map((): MessageEvent => ({ type: 'alive', data: '' })));
    const { changes, gaps, closing } = this.events;
    return merge(changes.pipe(map((job): MessageEvent => ({ type: 'job', data: job }))), alive).pipe(takeUntil(merge(gaps, closing)));
  }

  @Get(':id')
  @ApiOperation({ summary: 'One job' })
  find(@IdParam() id: string): Promise<JobView> {
    return this.jobs.find(id);
  }

  @Delete(':id')
  @HttpCode(204)
  @ApiOperation({ summary: 'Cancel a job and everything it made, or dismiss a failed one' })
  cancel(@IdParam() id: string): Promise<void> {
    return this.jobs.cancel(id);
  }
}
