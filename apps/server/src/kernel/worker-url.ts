/** Where the worker thread's code is; a module of its own, so that tests can run it from source. */
export function workerUrl(): { url: URL; execArgv: string[] } {
  return { url: new URL('./kernel-worker.js', import.meta.url), execArgv: [] };
}
