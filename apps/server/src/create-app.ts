import 'reflect-metadata';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { DocumentBuilder, SwaggerModule } from '@nestjs/swagger';
import cookieParser from 'cookie-parser';
import express from 'express';
import { AppModule } from './app.module.ts';
import { prepareDatabase } from './database/prepare-database.ts';
import { BodyPipe } from './http/body.pipe.ts';
import { readJson } from './http/read-json.ts';
import { installation } from './process/installation.ts';
import { guardAddress } from './http/guard-address.ts';
import { securityHeaders } from './http/security-headers.ts';
import { serveWeb } from './http/serve-web.ts';
import { underBase } from './http/under-base.ts';
import { ModelsService } from './models/models.service.ts';
import { PlainLogger } from './process/plain-logger.ts';
import { answerEarlyErrors, ProblemFilter } from './problems/problem.filter.ts';

/** ms that a connection may be silent; uploads watch over themselves. */
const SILENCE = 5 * 60_000;

/** The application, ready to listen. `web` is the folder of the built interface, if it is to be served. */
export async function createApp(web?: string): Promise<NestExpressApplication> {
  await prepareDatabase();
  const app = await NestFactory.create<NestExpressApplication>(AppModule, {
    logger: new PlainLogger(),
    abortOnError: false,
    forceCloseConnections: true,
    bodyParser: false,
  });
  app.disable('x-powered-by');
  const { BATHYSCOPE_HOSTS: hosts, BATHYSCOPE_PROXY: proxies, BATHYSCOPE_BASE: base } = installation();
  app.set('trust proxy', proxies);
  app.use(securityHeaders, guardAddress(hosts), underBase(base), cookieParser());
  app.setGlobalPrefix('api');
  app.useGlobalPipes(new BodyPipe());
  app.useGlobalFilters(new ProblemFilter());
  readJson(app, (id) => app.get(ModelsService).require(id));
  app.use(
    ['/api/models/:id/thumbnail', '/api/models/:id/records/:record/picture'],
    express.raw({ type: 'image/png', limit: '1mb' }),
  );
  app.use(answerEarlyErrors);
  const document = new DocumentBuilder()
    .setTitle('Bathyscope')
    .setDescription('Models, their geometry, jobs and questions.')
    .setVersion('1')
    .addServer(base)
    .build();
  SwaggerModule.setup('api/docs', app, () => SwaggerModule.createDocument(app, document));
  if (web) serveWeb(app, web, base);
  const server = app.getHttpServer();
  // A slow upload takes as long as it takes.
  server.requestTimeout = 0;
  server.setTimeout(SILENCE);
  return app;
}
