import { Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import pg from 'pg';
import { giveUpStart } from '../process/hopeless-start.ts';
import { databaseUrl } from './database-url.ts';
import { refuseNewer } from './newer-database.ts';

/** Held by every process that works on the tables, shared; whoever changes them holds it alone. Any number that nothing else in the database uses. */
export const RUNNING = 460_047;
const PAUSE = 500;

/**
 * Says for as long as the process lives that it works on the tables, so that one of another version does not change them under it.
 * Lost with its connection, it is made anew; where the tables were changed meanwhile, the process ends with a sentence.
 */
@Injectable()
export class RunningMark implements OnModuleInit, OnApplicationShutdown {
  private readonly logger = new Logger('Database');
  private client: pg.Client | null = null;
  private timer: NodeJS.Timeout | null = null;
  private closed = false;

  async onModuleInit(): Promise<void> {
    await this.make();
  }

  async onApplicationShutdown(): Promise<void> {
    this.closed = true;
    if (this.timer) clearTimeout(this.timer);
    const client = this.client;
    this.client = null;
    await client?.end().catch(() => {});
  }

  private async make(): Promise<void> {
    const client = new pg.Client({ connectionString: databaseUrl(), keepAlive: true });
    client.on('error', () => this.lost(client));
    client.on('end', () => this.lost(client));
    this.client = client;
    try {
      await client.connect();
      await client.query('select pg_advisory_lock_shared($1)', [RUNNING]);
    } catch {
      return this.lost(client);
    }
    await refuseNewer(client).catch((error: unknown) => {
      if (!this.closed) giveUpStart(error);
    });
  }

  private lost(client: pg.Client): void {
    if (this.client !== client || this.closed) return;
    this.client = null;
    client.end().catch(() => {});
    this.timer = setTimeout(() => void this.make(), PAUSE);
  }
}
