import { Catch, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import type { ErrorRequestHandler, Response } from 'express';
import { problemOf } from './problem-of.ts';

/** Seconds after which a client may try again what could not be done just now. */
const TRY_AGAIN = 5;

/** Turns every error into a problem document. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  catch(error: unknown, host: ArgumentsHost): void {
    sendProblem(host.switchToHttp().getResponse<Response>(), error);
  }
}

/**
 * Errors of what runs before the framework, such as the body parser's; the framework would
 * forget what kind they are.
 */
export const answerEarlyErrors: ErrorRequestHandler = (error: unknown, _request, response, _next) =>
  sendProblem(response, error);

function sendProblem(response: Response, error: unknown): void {
  // Whoever asked is gone.
  if (response.destroyed) return;
  if (response.headersSent) {
    response.destroy();
    return;
  }
  const problem = problemOf(error);
  if ([429, 503].includes(problem.status)) response.set('Retry-After', String(TRY_AGAIN));
  response.removeHeader('Content-Encoding');
  response
    .status(problem.status)
    .set('Cache-Control', 'no-store')
    .type('application/problem+json')
    .send(JSON.stringify(problem));
}
