import 'reflect-metadata';
import { NestFactory } from '@nestjs/core';
import { prepareDatabase } from './database/prepare-database.ts';
import { giveUpStart } from './process/hopeless-start.ts';
import { installation } from './process/installation.ts';
import { PlainLogger } from './process/plain-logger.ts';
import { stayUp } from './process/stay-up.ts';
import { WorkModule } from './worker/work.module.ts';

/* A worker: takes jobs from the queue of the database in DATABASE_URL, on the server's machine or another. */
let close = (): Promise<void> => Promise.resolve();
stayUp(() => close());
try {
  installation();
  await prepareDatabase();
  const app = await NestFactory.createApplicationContext(WorkModule, {
    logger: new PlainLogger(),
    abortOnError: false,
  });
  close = () => app.close();
} catch (error) {
  giveUpStart(error);
}
