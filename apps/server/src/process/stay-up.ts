import { Logger } from '@nestjs/common';

/** ms. After this the process ends whatever still runs: Ctrl+C ends everything within three seconds. */
const LAST_MOMENTS = 1500;

/**
 * What the process does when something unforeseen happens, or when it is told to end. A promise that nobody
 * waited for is logged. An exception that nobody caught leaves the process in a state that cannot be known:
 * it finishes what it can and ends, and its supervisor starts it again.
 */
export function stayUp(close: () => Promise<void>): void {
  const logger = new Logger('Process');
  let ending = false;
  const end = (code: number): void => {
    if (ending) return;
    ending = true;
    setTimeout(() => process.exit(code), LAST_MOMENTS);
    close()
      .catch((error: unknown) => logger.error(textOf(error)))
      .finally(() => process.exit(code));
  };
  // Whoever read the log may be gone; that is no reason to end.
  process.stdout.on('error', () => {});
  process.stderr.on('error', () => {});
  process.on('unhandledRejection', (error) =>
    logger.error(`A promise failed that nobody waited for: ${textOf(error)}`),
  );
  process.on('uncaughtException', (error) => {
    logger.error(`Unforeseen, the process is started anew: ${textOf(error)}`);
    end(1);
  });
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => end(0));
  // The supervisor is gone.
  process.on('disconnect', () => end(0));
}

const textOf = (error: unknown): string =>
  error instanceof Error ? (error.stack ?? error.message) : String(error);
