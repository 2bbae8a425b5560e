/** What an error of the database means: it cannot be reached (yet), or its disk is full. */
export type DatabaseTrouble = 'unreachable' | 'full';

/** SQLSTATE classes and codes (PostgreSQL's appendix A) and codes of the operating system. */
const UNREACHABLE =
  /^(08\w{3}|57P0[123]|53300|ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|ENOTFOUND|EHOSTUNREACH)$/;
const FULL = /^(53100|ENOSPC)$/;
const LOST =
  /connection (terminated|ended)|connection error|timeout acquiring a connection|not queryable|unable to acquire a connection/i;

export function databaseTrouble(error: unknown): DatabaseTrouble | null {
  if (!(error instanceof Error)) return null;
  const code = String((error as { code?: unknown }).code ?? '');
  if (FULL.test(code) || /no space left on device/i.test(error.message)) return 'full';
  return UNREACHABLE.test(code) || LOST.test(error.message) ? 'unreachable' : null;
}

const FIRST_PAUSE = 100;
const LONGEST_PAUSE = 2000;

/**
 * Does something that may be done twice again for as long as the database cannot be reached, at
 * most for so many seconds.
 */
export async function patiently<T>(seconds: number, work: () => Promise<T>): Promise<T> {
  const end = Date.now() + 1000 * seconds;
  for (let pause = FIRST_PAUSE; ; pause = Math.min(2 * pause, LONGEST_PAUSE)) {
    try {
      return await work();
    } catch (error) {
      if (databaseTrouble(error) !== 'unreachable' || Date.now() + pause > end) throw error;
      await new Promise((done) => setTimeout(done, pause));
    }
  }
}
