import { HttpException, Logger } from '@nestjs/common';
import type { Problem } from '@bathyscope/contracts';
import { databaseTrouble } from '../database/failures.ts';
import { DISK_FULL, ProblemException } from './problem.ts';

const logger = new Logger('Problem');

const problem = (status: number, title: string, detail: string): Problem => ({
  type: 'about:blank',
  title,
  status,
  detail,
});

const UNREADABLE = 'The address or the body of the request cannot be read.';

/** Sentences for what the body parser and the file server find, by its type. */
const BY_TYPE: Record<string, Problem> = {
  'entity.parse.failed': problem(400, 'Bad request', 'The body of the request is not valid JSON.'),
  'body.unstorable': problem(
    400,
    'Bad request',
    'The request holds a character that cannot be stored (NUL, or half of a pair). Take it out and send it again.',
  ),
  'body.too.deep': problem(400, 'Bad request', 'The body of the request is nested too deeply.'),
  'charset.unsupported': problem(
    415,
    'Unsupported',
    'The body of the request has a character set that the server does not read. Send UTF-8.',
  ),
  'encoding.unsupported': problem(
    415,
    'Unsupported',
    'The body of the request is compressed in a way that the server does not read. Send it plain or as gzip.',
  ),
  'request.aborted': problem(400, 'Bad request', 'The request broke off. Send it again.'),
  'request.size.invalid': problem(
    400,
    'Bad request',
    'The request is not as long as it says. Send it again.',
  ),
};

const tooLarge = (most: string): Problem =>
  problem(413, 'Too large', `The request is larger than the server takes here: ${most}`);
const sizeOf = (bytes: number): string =>
  bytes < 2 ** 20 ? `${Math.round(bytes / 2 ** 10)} kB` : `${Math.round(bytes / 2 ** 20)} MB`;

/**
 * What any error is to a user, as a problem document (RFC 9457). What is not meant for a user is
 * logged and named plainly.
 */
export function problemOf(error: unknown): Problem {
  if (error instanceof ProblemException) return error.problem;
  const trouble = databaseTrouble(error);
  if (trouble === 'full') return problem(507, 'No room', DISK_FULL);
  if (trouble === 'unreachable')
    return problem(
      503,
      'Not available',
      'The database does not answer at the moment; nothing was changed. Try again in a few seconds.',
    );
  const { type, status, code } = error as { type?: unknown; status?: unknown; code?: unknown };
  if (type === 'entity.too.large')
    return tooLarge(`${sizeOf((error as { limit?: number }).limit ?? 0)}. Send less at once.`);
  if (type === 'body.too.many') return tooLarge(`${(error as { most?: string }).most}. Send fewer at once.`);
  if (typeof type === 'string' && Object.hasOwn(BY_TYPE, type)) return BY_TYPE[type];
  if (error instanceof HttpException) return ofHttp(error);
  if (error instanceof URIError || (typeof status === 'number' && status >= 400 && status < 500))
    return problem(typeof status === 'number' ? status : 400, 'Bad request', UNREADABLE);
  // SQLSTATE class 22: values that the database cannot hold.
  if (typeof code === 'string' && /^22\w{3}$/.test(code))
    return problem(400, 'Bad request', 'The request holds text or numbers that cannot be stored.');
  logger.error(error instanceof Error ? error.stack : String(error));
  return problem(
    500,
    'Internal error',
    'Something went wrong in the server; nothing was changed. Try again, and look into the server’s log if it happens again.',
  );
}

function ofHttp(error: HttpException): Problem {
  const body = error.getResponse() as { message?: string | string[] };
  const said = [body.message ?? error.message].flat().join(' ');
  const detail = /^Cannot [A-Z]+ /.test(said)
    ? 'There is nothing at this address. What there is stands under /api/docs.'
    : /^Failed to decode/.test(said)
      ? UNREADABLE
      : said;
  return problem(error.getStatus(), error.name.replace(/Exception$/, ''), detail);
}
