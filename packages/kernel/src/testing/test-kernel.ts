import fs from 'node:fs';
import path from 'node:path';
import { createRequire } from 'node:module';
import { compileKernel, loadKernel, type LoadedKernel } from '../occt/load.ts';

let kernel: Promise<LoadedKernel> | null = null;

/** One kernel for all tests of a file. */
export const testKernel = (): Promise<LoadedKernel> => (kernel ??= compileKernel().then(loadKernel));

/** A CAx implementor-forum STEP file, as the npm package occt-import-js ships it for its own tests. */
export function publicFile(name: string): string {
  const folder = path.join(path.dirname(createRequire(__filename).resolve('occt-import-js/package.json')), 'test', 'testfiles');
  const found = fs
    .readdirSync(folder)
    .map((sub) => path.join(folder, sub, name))
    .find((p) => fs.existsSync(p));
  if (!found) throw new Error(`${name} is not among the public test files.`);
  return found;
}
