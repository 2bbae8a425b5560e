import { Injectable, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import type { JobView } from '@bathyscope/contracts';
import { Subject } from 'rxjs';
import { Channel } from '../database/channel.ts';

/** The channel that the trigger of table `job` tells every change on. */
export const JOB_CHANNEL = 'bathyscope_job';

/** Every change of every job, whichever process made it. */
@Injectable()
export class JobEvents implements OnApplicationBootstrap, OnModuleDestroy {
  readonly changes = new Subject<JobView>();
  /** Something may have been missed: whoever follows should ask for the list again. */
  readonly gaps = new Subject<void>();
  /** The process ends. */
  readonly closing = new Subject<void>();
  private readonly channel = new Channel(
    JOB_CHANNEL,
    (payload) => this.changes.next(JSON.parse(payload) as JobView),
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
