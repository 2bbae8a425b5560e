import { Injectable, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { giveUpStart, HopelessStart } from '../process/hopeless-start.ts';
import { KeptConnection } from './kept-connection.ts';
import { refuseNewer } from './newer-database.ts';

/**
 * Held by every process that works on the tables, shared; whoever changes them holds it alone. Any number
 * that nothing else in the database uses.
 */
export const RUNNING = 460_047;

/**
 * Says for as long as the process lives that it works on the tables, so that one of another version does not
 * change them under it.
 * Where they were changed while the mark was lost with its connection, the process ends with a sentence.
 */
@Injectable()
export class RunningMark implements OnModuleInit, OnApplicationShutdown {
  private readonly connection = new KeptConnection(async (client) => {
    await client.query('select pg_advisory_lock_shared($1)', [RUNNING]);
    await refuseNewer(client).catch((error: unknown) => {
      if (error instanceof HopelessStart) giveUpStart(error);
      throw error;
    });
  });

  onModuleInit(): Promise<void> {
    return this.connection.open();
  }

  onApplicationShutdown(): Promise<void> {
    return this.connection.close();
  }
}
