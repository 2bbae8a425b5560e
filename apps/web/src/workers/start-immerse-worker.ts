/** In a file of its own, so that what uses it can be tested without a bundler. */
export const startImmerseWorker = (): Worker => new Worker(new URL('./immerse-worker.ts', import.meta.url), { type: 'module' });
