import fs from 'node:fs';
import path from 'node:path';
import { installation } from '../process/installation.ts';

let found: string | undefined;

/** Which build of the page this process serves: the name of its entry, which changes with what is in it; empty where none is served. */
export const builtPage = (): string => (found ??= read(installation().BATHYSCOPE_WEB));

function read(folder: string | undefined): string {
  if (!folder) return '';
  try {
    const html = fs.readFileSync(path.join(folder, 'index.html'), 'utf8');
    return /<script type="module"[^>]* src="[^"]*\/(?<entry>[^"/]+)"/.exec(html)?.groups?.['entry'] ?? '';
  } catch {
    return '';
  }
}
