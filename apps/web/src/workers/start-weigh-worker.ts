/** In a file of its own, so that what uses it can be tested without a bundler. */
export const startWeighWorker = (): Worker => new Worker(new URL('./weigh-worker.ts', import.meta.url), { type: 'module' });
