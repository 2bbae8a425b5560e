import fs from 'node:fs';
import path from 'node:path';

/**
 * Which build of the page stands in a folder: the name of its entry, which changes with what is in it; empty
 * where there is none.
 */
export function builtPage(folder: string | undefined): string {
  if (!folder) return '';
  try {
    const html = fs.readFileSync(path.join(folder, 'index.html'), 'utf8');
    return /<script type="module"[^>]* src="[^"]*\/(?<entry>[^"/]+)"/.exec(html)?.groups?.['entry'] ?? '';
  } catch {
    return '';
  }
}
