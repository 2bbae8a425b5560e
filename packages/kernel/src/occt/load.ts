import fs from 'node:fs';
import path from 'node:path';
import { createRequire } from 'node:module';

/**
 * The raw bindings: thousands of generated classes, so they stay untyped inside this
 * package and never leave it.
 */
// eslint-disable-next-line @typescript-eslint/no-explicit-any
export type Occt = any;

/**
 * Raised where what is found between solids changes: checks are then made anew. What conversions make has a
 * version of its own.
 */
export const KERNEL_VERSION = 'occt-7.6.2/bitbybit-0.20.11/5';

const require_ = createRequire(import.meta.url);

function gluePath(): string {
  return require_.resolve('@bitbybit-dev/occt/bitbybit-dev-occt/bitbybit-dev-occt.js');
}

export interface LoadedKernel {
  oc: Occt;
  /** What the kernel's parsers printed since the last call; STEP errors name their line here. */
  takeMessages(): string[];
}

let compiled: Promise<WebAssembly.Module> | undefined;

/**
 * Reads and compiles the kernel, once a process; the module can be shared with any number of worker threads.
 */
export function compileKernel(): Promise<WebAssembly.Module> {
  return (compiled ??= WebAssembly.compile(fs.readFileSync(gluePath().replace(/\.js$/, '.wasm'))));
}

/** Starts one instance (about 0.8 s, 140 MB). */
export async function loadKernel(module: WebAssembly.Module): Promise<LoadedKernel> {
  const glue = gluePath();
  const globals = globalThis as Record<string, unknown>;
  // The generated glue expects CommonJS globals when it runs in Node.
  globals['__dirname'] = path.dirname(glue);
  globals['require'] = createRequire(glue);
  const { default: factory } = (await import(glue)) as { default: new (o: object) => Promise<Occt> };

  const messages: string[] = [];
  const keep = (line: string) => {
    if (messages.length < 400) messages.push(line);
  };
  const before = {
    exception: process.listeners('uncaughtException'),
    rejection: process.listeners('unhandledRejection'),
  };
  const oc = await new factory({
    print: keep,
    printErr: keep,
    instantiateWasm(
      imports: WebAssembly.Imports,
      done: (i: WebAssembly.Instance, m: WebAssembly.Module) => void,
    ) {
      void WebAssembly.instantiate(module, imports).then((instance) => done(instance, module));
      return {};
    },
  });
  // The glue installs process-wide handlers that rethrow everything: a server must not have them.
  for (const l of process.listeners('uncaughtException'))
    if (!before.exception.includes(l)) process.removeListener('uncaughtException', l);
  for (const l of process.listeners('unhandledRejection'))
    if (!before.rejection.includes(l)) process.removeListener('unhandledRejection', l);
  return { oc, takeMessages: () => messages.splice(0) };
}
