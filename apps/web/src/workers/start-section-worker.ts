/** In a file of its own, so that what uses it can be tested without a bundler. */
export const startSectionWorker = (): Worker =>
  new Worker(new URL('./section-worker.ts', import.meta.url), { type: 'module' });
