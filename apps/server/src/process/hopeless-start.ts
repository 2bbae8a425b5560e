/** The exit code that the supervisor does not start again after: what ended so would end so again. */
const HOPELESS = 78;

/** A start that cannot succeed until somebody changes something, with a sentence that says what. */
export class HopelessStart extends Error {
  override name = 'HopelessStart';
}

/** Ends a process that could not start, with what is wrong. */
export function giveUpStart(error: unknown): never {
  const hopeless = error instanceof HopelessStart;
  console.error(hopeless ? error.message : error);
  process.exit(hopeless ? HOPELESS : 1);
}
