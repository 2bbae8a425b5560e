/** A module of its own, so that tests can replace it. */
export const startWallWorker = (): Worker =>
  new Worker(new URL('./wall-worker.ts', import.meta.url), { type: 'module' });
