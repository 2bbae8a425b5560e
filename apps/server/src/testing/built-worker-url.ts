import path from 'node:path';
import { pathToFileURL } from 'node:url';

export const workerUrl = (): { url: URL; execArgv: string[] } => ({
  url: pathToFileURL(path.join(path.dirname(__filename), '..', '..', 'dist', 'kernel', 'kernel-worker.js')),
  execArgv: [],
});
