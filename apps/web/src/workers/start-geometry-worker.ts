/** A module of its own, so that tests can replace it. */
export const startGeometryWorker = (): Worker =>
  new Worker(new URL('./geometry-worker.ts', import.meta.url), { type: 'module' });
