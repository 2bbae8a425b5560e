import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import type { Problem } from '@bathyscope/contracts';
import type { Response } from 'express';
import { ProblemException } from './problem.ts';

/** Turns every error into a problem document (RFC 9457); what is not meant for the user is logged and named plainly. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly logger = new Logger('Problem');

  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    const problem = this.problemOf(error);
    if (response.headersSent) {
      response.end();
      return;
    }
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  }

  private problemOf(error: unknown): Problem {
    if (error instanceof ProblemException) return error.problem;
    if (error instanceof HttpException) {
      const body = error.getResponse() as { message?: string | string[] };
      const detail = [body.message ?? error.message].flat().join(' ');
      return { type: 'about:blank', title: error.name.replace(/Exception$/, ''), status: error.getStatus(), detail };
    }
    this.logger.error(error instanceof Error ? error.stack : String(error));
    return { type: 'about:blank', title: 'Internal error', status: 500, detail: 'Something went wrong in the server; nothing was changed. Try again, and look into the server’s log if it happens again.' };
  }
}
