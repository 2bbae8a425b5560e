import 'reflect-metadata';
import path from 'node:path';
import { ValidationPipe } from '@nestjs/common';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { DocumentBuilder, SwaggerModule } from '@nestjs/swagger';
import express from 'express';
import type { NextFunction, Request, Response } from 'express';
import { AppModule } from './app.module.ts';
import { JobsService } from './jobs/jobs.service.ts';
import { ProblemFilter } from './problems/problem.filter.ts';

/** The application, ready to listen. `web` is the folder of the built interface, if it is to be served. */
export async function createApp(web?: string): Promise<NestExpressApplication> {
  await (await JobsService.prepareQueue()).release();
  const app = await NestFactory.create<NestExpressApplication>(AppModule, { logger: process.env['NODE_ENV'] === 'test' ? ['error', 'warn'] : ['error', 'warn', 'log'], abortOnError: false });
  app.setGlobalPrefix('api');
  app.useGlobalPipes(new ValidationPipe({ whitelist: true, transform: true }));
  app.useGlobalFilters(new ProblemFilter());
  app.useBodyParser('json', { limit: '4mb' });
  app.use(['/api/models/:id/thumbnail', '/api/models/:id/saved-views/:view/thumbnail'], express.raw({ type: 'image/png', limit: '1mb' }));
  app.enableShutdownHooks();
  const document = new DocumentBuilder().setTitle('Bathyscope').setDescription('Models, their geometry, jobs and questions.').setVersion('1').build();
  SwaggerModule.setup('api/docs', app, () => SwaggerModule.createDocument(app, document));
  if (web) serveWeb(app, web);
  return app;
}

/** The built interface; every address that is not the API's is the interface's own. */
function serveWeb(app: NestExpressApplication, folder: string): void {
  app.use(express.static(folder, {
    index: false,
    setHeaders: (response, file) => response.setHeader('Cache-Control', file.includes(`${path.sep}assets${path.sep}`) ? 'public, max-age=31536000, immutable' : 'no-cache'),
  }));
  app.use((request: Request, response: Response, next: NextFunction) => {
    if (request.method !== 'GET' || request.path.startsWith('/api') || path.extname(request.path)) return next();
    response.set('Cache-Control', 'no-cache').sendFile(path.join(folder, 'index.html'), { cacheControl: false });
  });
}
