/** A module of its own, so that tests can replace it. */
export const startDrawingWorker = (): Worker =>
  new Worker(new URL('./drawing-worker.ts', import.meta.url), { type: 'module' });
