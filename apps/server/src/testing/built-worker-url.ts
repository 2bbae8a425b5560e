import path from 'node:path';
import { pathToFileURL } from 'node:url';

const built = (file: string): { url: URL; execArgv: string[] } => ({
  url: pathToFileURL(path.join(path.dirname(__filename), '..', '..', 'dist', 'kernel', file)),
  execArgv: [],
});

export const workerUrl = () => built('kernel-worker.js');
export const questionMainUrl = () => built('question-main.js');
