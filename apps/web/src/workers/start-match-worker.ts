/** A module of its own, so that tests can replace it. */
export const startMatchWorker = (): Worker =>
  new Worker(new URL('./match-worker.ts', import.meta.url), { type: 'module' });
