import { HttpException } from '@nestjs/common';
import type { Problem } from '@bathyscope/contracts';

/** An error with a sentence for the user; becomes an RFC 9457 problem document. */
export class ProblemException extends HttpException {
  readonly problem: Problem;

  /** @param more members that a client of this problem reads */
  constructor(status: number, title: string, detail: string, more: object = {}) {
    const problem: Problem = { type: 'about:blank', title, status, detail, ...more };
    super(problem, status);
    this.problem = problem;
  }
}

export const notFound = (what: string): ProblemException =>
  new ProblemException(
    404,
    'Not found',
    `There is no such ${what}; it may have been deleted. Go back to the shelf and look for it there.`,
  );

export const badRequest = (detail: string): ProblemException =>
  new ProblemException(400, 'Bad request', detail);

export const DISK_FULL =
  'The disk of the server is full. What is there can still be opened; ask whoever runs the server to make room, then try again.';
