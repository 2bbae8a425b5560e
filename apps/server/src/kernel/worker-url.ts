interface Code {
  url: URL;
  execArgv: string[];
}

/* Where the code of threads and processes is; a module of its own, so that tests can run it from source. */
export const workerUrl = (): Code => ({ url: new URL('./kernel-worker.js', import.meta.url), execArgv: [] });
export const questionMainUrl = (): Code => ({
  url: new URL('./question-main.js', import.meta.url),
  execArgv: [],
});
