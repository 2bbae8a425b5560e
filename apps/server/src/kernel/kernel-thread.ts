import { Worker } from 'node:worker_threads';
import type { KernelReply, KernelRequest } from './messages.ts';
import { workerUrl } from './worker-url.ts';

/** The thread ended before it answered: crashed, or was stopped on purpose. */
export class KernelStopped extends Error {
  override name = 'KernelStopped';
}

/** A fault the kernel reported about a file, in a sentence for the user. */
export class KernelRefusal extends Error {
  override name = 'KernelRefusal';
}

type WithoutId<T> = T extends unknown ? Omit<T, 'id'> : never;

/** One kernel worker thread: starts on demand, answers one question at a time, starts anew after it ended. */
export class KernelThread {
  private readonly module: WebAssembly.Module;
  private readonly onStopped: () => void;
  private worker: Worker | null = null;
  private nextId = 1;
  private readonly waiting = new Map<number, { onReply: (r: KernelReply) => boolean; fail: (e: Error) => void }>();

  constructor(module: WebAssembly.Module, onStopped: () => void = () => {}) {
    this.module = module;
    this.onStopped = onStopped;
  }

  /** Starts the thread if it is not running, so that the first question need not wait for it. */
  warm(): void {
    this.running();
  }

  /**
   * Sends a request. `onReply` sees every reply to it and returns true for the last one.
   * @throws KernelRefusal for faults of a file, KernelStopped when the thread ended, Error for other faults
   */
  ask(request: WithoutId<KernelRequest>, onReply: (reply: KernelReply) => boolean): Promise<void> {
    const id = this.nextId++;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, {
        fail: reject,
        onReply: (reply) => {
          if (reply.type === 'error') reject(reply.user ? new KernelRefusal(reply.message) : new Error(reply.message));
          else if (onReply(reply)) resolve();
          else return false;
          return true;
        },
      });
      this.running().postMessage({ ...request, id } as KernelRequest);
    });
  }

  /** Ends the thread at once, whatever it computes (the only way to interrupt the kernel). */
  async stop(): Promise<void> {
    const worker = this.worker;
    this.worker = null;
    await worker?.terminate();
    this.failAll(new KernelStopped('The computation was stopped.'));
  }

  private running(): Worker {
    if (this.worker) return this.worker;
    const { url, execArgv } = workerUrl();
    const worker = new Worker(url, { workerData: { module: this.module }, execArgv });
    this.worker = worker;
    worker.on('message', (reply: KernelReply) => {
      if (reply.type === 'ready') return;
      const entry = this.waiting.get(reply.id);
      if (entry?.onReply(reply)) this.waiting.delete(reply.id);
    });
    const ended = (why: string) => {
      if (this.worker !== worker) return;
      this.worker = null;
      this.failAll(new KernelStopped(why));
      this.onStopped();
    };
    worker.on('error', (error) => ended(`The geometry kernel crashed: ${String(error instanceof Error ? error.message : error)}.`));
    worker.on('exit', (code) => ended(`The geometry kernel ended unexpectedly (code ${code}).`));
    return worker;
  }

  private failAll(error: Error): void {
    for (const entry of this.waiting.values()) entry.fail(error);
    this.waiting.clear();
  }
}
