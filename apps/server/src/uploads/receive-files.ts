import type { Readable } from 'node:stream';
import busboy from 'busboy';
import type { Request } from 'express';
import { installation } from '../process/installation.ts';
import { ProblemException } from '../problems/problem.ts';

/** ms without a byte after which an upload is given up. However slow, it may take as long as it takes. */
const idleLimit = (): number => installation().BATHYSCOPE_UPLOAD_IDLE_S * 1000;

const FILES_AT_ONCE = 50;

/** Bytes; larger files are refused while they stream in. */
export const uploadLimit = (): number => installation().BATHYSCOPE_MAX_UPLOAD_MB * 1024 * 1024;

export const refusal = (detail: string, status = 422): ProblemException =>
  new ProblemException(status, 'The file was not taken', detail);

export type FileStream = Readable & { truncated?: boolean };

/**
 * Hands every file of a multipart request on, one after another, as it arrives.
 * @param take must take the whole stream, or throw a ProblemException when it refuses the file
 * @param moved is told how many bytes came; endlessly many while it is us who do not read on
 * @returns what `take` gave, or why it refused, file by file
 * @throws ProblemException when the request is none, breaks off, or stops sending; other errors of `take`
 */
export async function receiveFiles<T>(
  request: Request,
  take: (stream: FileStream, name: string | undefined) => Promise<T>,
  moved: (bytes: number) => void,
): Promise<(T | ProblemException)[]> {
  const parser = parserFor(request);
  const outcomes: Promise<T | ProblemException>[] = [];
  let fault: Error | null = null;
  parser.on('file', (_field, stream: FileStream, info) => {
    // Before anything else: a stream without one ends the process when the request breaks off.
    stream.on('error', () => {});
    const outcome = take(stream, info.filename)
      .catch((error: unknown): ProblemException => {
        if (error instanceof ProblemException) return error;
        // The stream broke off, which is no fault of whoever read it.
        if (stream.errored || stream.destroyed) throw error;
        fault ??= error instanceof Error ? error : new Error(String(error));
        parser.destroy(fault);
        throw fault;
      })
      .finally(() => stream.resume());
    outcome.catch(() => {});
    outcomes.push(outcome);
  });
  parser.on('filesLimit', () =>
    outcomes.push(
      Promise.resolve(
        refusal(`At most ${FILES_AT_ONCE} files are taken at once. Send the others again.`, 413),
      ),
    ),
  );
  try {
    await flow(request, parser, moved);
  } catch (error) {
    // The rest is let through unread, so that the answer can be sent; the parser's own streams end with it.
    request.unpipe(parser);
    request.resume();
    parser.destroy();
    // Only then is every stream done with what it had.
    await Promise.allSettled(outcomes);
    throw (
      fault ??
      (error instanceof ProblemException ? error : refusal('The upload broke off. Send the file again.', 400))
    );
  }
  return Promise.all(outcomes);
}

/**
 * Pipes a request into its parser to the end. Not by `pipeline`, which would cut the connection
 * before an answer is sent.
 */
function flow(request: Request, parser: busboy.Busboy, moved: (bytes: number) => void): Promise<void> {
  const limit = idleLimit();
  let last = Date.now();
  let timer: NodeJS.Timeout | undefined;
  return new Promise<void>((resolve, reject) => {
    parser.once('error', reject).once('close', () => resolve());
    request.once('error', reject).once('close', () => !request.complete && reject(new Error('broken off')));
    const came = (bytes: Buffer) => {
      last = Date.now();
      moved(bytes.length);
    };
    request.on('data', came).pipe(parser);
    timer = setInterval(
      () => {
        // A request that is paused waits for us, not we for it.
        if (request.isPaused()) {
          last = Date.now();
          moved(Infinity);
        } else if (Date.now() - last > limit)
          reject(
            refusal(
              `No byte arrived for ${Math.round(limit / 1000)} seconds, so the upload was given up. Send the file again.`,
              408,
            ),
          );
      },
      Math.min(1000, limit / 4),
    );
  }).finally(() => clearInterval(timer));
}

function parserFor(request: Request): busboy.Busboy {
  const none = refusal(
    'The request carries no file. Send one as multipart/form-data in a field named “file”.',
    400,
  );
  if (!/^multipart\/form-data\b/i.test(request.headers['content-type'] ?? '')) throw none;
  try {
    const parser = busboy({
      headers: request.headers,
      defParamCharset: 'utf8',
      limits: {
        fileSize: uploadLimit(),
        files: FILES_AT_ONCE,
        fields: 50,
        fieldSize: 10_000,
        headerPairs: 50,
      },
    });
    parser.on('error', () => {});
    return parser;
  } catch {
    throw none;
  }
}
