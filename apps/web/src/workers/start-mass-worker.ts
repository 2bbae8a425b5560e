/** In a file of its own, so that what uses it can be tested without a bundler. */
export const startMassWorker = (): Worker =>
  new Worker(new URL('./mass-worker.ts', import.meta.url), { type: 'module' });
