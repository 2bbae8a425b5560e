import { Injectable, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import type { JobView, ModelEvent, RecordEvent } from '@bathyscope/contracts';
import { Subject } from 'rxjs';
import { Channel } from '../database/channel.ts';

/** The channel that the trigger of table `job` tells every change on. */
export const JOB_CHANNEL = 'bathyscope_job';
const RECORD_CHANNEL = 'bathyscope_record';
const MODEL_CHANNEL = 'bathyscope_model';

/** Every change of jobs, records and models, whichever process made it. */
@Injectable()
export class DatabaseEvents implements OnApplicationBootstrap, OnModuleDestroy {
  readonly jobs = new Subject<JobView>();
  readonly records = new Subject<RecordEvent>();
  readonly models = new Subject<ModelEvent>();
  /** Something may have been missed: whoever follows should ask for all of it again. */
  readonly gaps = new Subject<void>();
  /** The process ends. */
  readonly closing = new Subject<void>();
  private readonly channel = new Channel(
    {
      [JOB_CHANNEL]: (payload) => this.jobs.next(JSON.parse(payload) as JobView),
      [RECORD_CHANNEL]: (payload) => this.records.next(JSON.parse(payload) as RecordEvent),
      [MODEL_CHANNEL]: (payload) => this.models.next(JSON.parse(payload) as ModelEvent),
    },
    () => this.gaps.next(),
  );

  async onApplicationBootstrap(): Promise<void> {
    await this.channel.open();
  }

  async onModuleDestroy(): Promise<void> {
    this.closing.next();
    await this.channel.close();
  }
}
