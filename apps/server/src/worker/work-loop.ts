import { messageOf } from '@bathyscope/core/tables';
import { Injectable, Logger, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import { Logger as QueueLogger, run, type Runner } from 'graphile-worker';
import { databaseUrl } from '../database/database-url.ts';
import { ConverterService } from '../kernel/converter.service.ts';
import { LANES } from '../process/lanes.ts';
import { Garbage } from './garbage.ts';
import { JobRunner } from './job-runner.ts';
import { Outdated } from './outdated.ts';

/** ms between looks for jobs whose worker went away. */
const SWEEP = 4000;
const PAUSE = 1000;

/**
 * Keeps one worker at each lane of the queue for as long as the process lives, whatever
 * happens to the database.
 */
@Injectable()
export class WorkLoop implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly logger = new Logger('Worker');
  private readonly runners = new Set<Runner>();
  private timer: NodeJS.Timeout | null = null;
  private closing = false;

  constructor(
    private readonly jobs: JobRunner,
    private readonly garbage: Garbage,
    private readonly converter: ConverterService,
    private readonly outdated: Outdated,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    await this.converter.warm();
    await this.jobs.open();
    for (const lane of LANES) void this.keepRunning(lane);
    this.sweep();
  }

  async onModuleDestroy(): Promise<void> {
    this.closing = true;
    if (this.timer) clearTimeout(this.timer);
    const stopping = Promise.all([...this.runners].map((r) => r.stop().catch(() => {})));
    await this.jobs.close();
    await stopping;
  }

  /** The queue's runner ends when the database stays away; it is started again then. */
  private async keepRunning(lane: (typeof LANES)[number]): Promise<void> {
    while (!this.closing) {
      let runner: Runner | null = null;
      try {
        runner = await run({
          connectionString: databaseUrl(),
          concurrency: 1,
          noHandleSignals: true,
          pollInterval: 2000,
          logger: new QueueLogger(() => (level, message) => level === 'error' && this.logger.debug(message)),
          ...(lane === LANES[0] && { crontab: '*/10 * * * * collect_garbage' }),
          taskList: {
            [lane]: (payload) => this.jobs.run((payload as { id: string }).id),
            ...(lane === LANES[0] && { collect_garbage: () => this.garbage.collect() }),
          },
        });
        this.runners.add(runner);
        await runner.promise;
      } catch (error) {
        if (!this.closing) this.logger.warn(`The queue cannot be reached: ${messageOf(error)}`);
      }
      if (runner) this.runners.delete(runner);
      if (!this.closing) await new Promise((done) => setTimeout(done, PAUSE));
    }
  }

  private sweep(): void {
    this.jobs
      .sweep()
      .then(() => this.converter.version())
      .then((version) => (version ? this.outdated.enqueueNext(version) : undefined))
      .catch(() => {})
      .finally(() => {
        if (!this.closing) this.timer = setTimeout(() => this.sweep(), SWEEP);
      });
  }
}
