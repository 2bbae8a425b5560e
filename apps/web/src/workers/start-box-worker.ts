/** In a file of its own, so that what uses it can be tested without a bundler. */
export const startBoxWorker = (): Worker => new Worker(new URL('./box-worker.ts', import.meta.url), { type: 'module' });
