import type { NestExpressApplication } from '@nestjs/platform-express';
import { isUUID } from 'class-validator';
import express from 'express';
import type { NextFunction, Request, Response } from 'express';
import { checkJson, type BodyLimits } from './check-json.ts';

/** What most routes take: a name, a few figures. */
const SMALL: BodyLimits = { bytes: 64 * 1024, values: 2_000, named: 1_000 };
/** What is kept as one document, and lists of components of a large assembly. */
const LARGE: BodyLimits = { bytes: 4 * 1024 * 1024, values: 120_000, named: 40_000 };

const LARGE_OF_MODEL = [
  'records',
  'records/:record',
  'view-state',
  'links',
  'revisions/:revision/clash-checks',
  'revisions/:revision/questions/:name',
].map((rest) => `/api/models/:id/${rest}`);

/**
 * Reads bodies of JSON: each route so much as it needs, counted while it is unpacked; nothing large for a
 * model that is not there. @param requireModel throws where it is not there
 */
export function readJson(app: NestExpressApplication, requireModel: (id: string) => Promise<unknown>): void {
  const modelFirst = (request: Request, _response: Response, next: NextFunction): void => {
    if (request.method === 'GET' || request.method === 'HEAD' || !isUUID(request.params['id'])) return next();
    requireModel(String(request.params['id'])).then(() => next(), next);
  };
  app.use(LARGE_OF_MODEL, modelFirst, reader(LARGE));
  app.use('/api/settings', reader(LARGE));
  app.use('/api', reader(SMALL));
}

const reader = (limits: BodyLimits): express.RequestHandler =>
  express.json({
    limit: limits.bytes,
    verify: (_request, _response, body, encoding) => checkJson(body, encoding, limits),
  });
