import fs from 'node:fs';
import path from 'node:path';
import { createRequire } from 'node:module';

const folder = (): string =>
  path.join(
    path.dirname(createRequire(import.meta.url).resolve('occt-import-js/package.json')),
    'test',
    'testfiles',
  );

/**
 * Where a CAx implementor-forum STEP file is, as the npm package occt-import-js ships it for its own tests.
 */
export function publicFile(name: string): string {
  const found = (fs.readdirSync(folder(), { recursive: true }) as string[])
    .map((p) => path.join(folder(), p))
    .find((p) => path.basename(p) === name);
  if (!found) throw new Error(`${name} is not among the public test files.`);
  return found;
}
