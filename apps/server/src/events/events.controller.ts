import { Controller, Head, HttpCode, Query, Sse, type MessageEvent } from '@nestjs/common';
import { FollowEventsRequest } from '@bathyscope/contracts/requests';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import { filter, interval, map, merge, of, takeUntil, type Observable } from 'rxjs';
import { builtPage } from '../http/built-page.ts';
import { installation } from '../process/installation.ts';
import { DatabaseEvents } from './database-events.ts';

const ALIVE = 25_000;

@ApiTags('events')
@Controller('events')
export class EventsController {
  private readonly page = builtPage(installation().BATHYSCOPE_WEB);

  constructor(private readonly events: DatabaseEvents) {}

  @Head()
  @HttpCode(200)
  @ApiOperation({ summary: 'Whether there are events' })
  headOfEvents(): void {}

  @Sse()
  @ApiOperation({
    summary:
      'What changes, as server-sent events: jobs whole, records and models by their identifiers, records only of the models named in `models`. Begins with the version; ends when something may have been missed, so that all is asked for again',
  })
  stream(@Query() { models: followed = '' }: FollowEventsRequest): Observable<MessageEvent> {
    const { jobs, records, models, gaps, closing } = this.events;
    const wanted = new Set(followed.split(','));
    const told = <T extends object>(type: string) => map((data: T): MessageEvent => ({ type, data }));
    return merge(
      of({ page: this.page }).pipe(told('version')),
      jobs.pipe(told('job')),
      records.pipe(
        filter((event) => wanted.has(event.model)),
        told('record'),
      ),
      models.pipe(told('model')),
      interval(ALIVE).pipe(map((): MessageEvent => ({ type: 'alive', data: '' }))),
    ).pipe(takeUntil(merge(gaps, closing)));
  }
}
