import { compileKernel, loadKernel, type LoadedKernel } from '../occt/load.ts';

let kernel: Promise<LoadedKernel> | null = null;

/** One kernel for all tests of a file. */
export const testKernel = (): Promise<LoadedKernel> => (kernel ??= compileKernel().then(loadKernel));
