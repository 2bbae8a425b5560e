import { Worker } from 'node:worker_threads';
import type { KernelEnd, KernelNews, KernelReply, KernelRequest, KernelRole } from './messages.ts';
import { workerUrl } from './worker-url.ts';

/** The thread ended before it answered: crashed, or was stopped on purpose. */
export class KernelStopped extends Error {
  override name = 'KernelStopped';
}

/** A fault that the kernel found in a file or a question, in a sentence for the user. */
export class KernelRefusal extends Error {
  override name = 'KernelRefusal';
  override readonly cause: string;

  constructor(sentence: string, cause = '') {
    super(sentence);
    this.cause = cause;
  }
}

/** A fault of the kernel itself; its words are for the log. */
export class KernelFault extends Error {
  override name = 'KernelFault';
  readonly broken: boolean;

  constructor(message: string, broken: boolean) {
    super(message);
    this.broken = broken;
  }
}

type Answer = Extract<KernelEnd, { type: 'converted' | 'answered' }>;

interface Waiting {
  onNews: (news: KernelNews) => void;
  resolve: (end: Answer) => void;
  reject: (error: Error) => void;
}

/**
 * One thread with a kernel of its own: starts on demand, does one thing at a time,
 * starts anew after it ended.
 */
export class KernelThread {
  private readonly module: WebAssembly.Module;
  private worker: Worker | null = null;
  private waiting: Waiting | null = null;
  private converter: string | null = null;

  constructor(
    module: WebAssembly.Module,
    private readonly role: KernelRole,
  ) {
    this.module = module;
  }

  /** Starts the thread if it is not running, so that the first request need not wait for it. */
  warm(): void {
    this.running();
  }

  /** What it converts with, once it has started. */
  version(): string | null {
    return this.converter;
  }

  /**
   * Does one thing; the next may be asked when it has ended.
   * @throws KernelRefusal, KernelFault, or KernelStopped when the thread ended
   */
  ask(request: KernelRequest, onNews: (news: KernelNews) => void = () => {}): Promise<Answer> {
    if (this.waiting) throw new Error('The kernel thread is busy.');
    const worker = this.running();
    return new Promise((resolve, reject) => {
      this.waiting = { onNews, resolve, reject };
      worker.postMessage(request);
    });
  }

  /** Ends the thread at once, whatever it computes (the only way to interrupt the kernel). */
  async stop(why = 'The computation was stopped.'): Promise<void> {
    const worker = this.worker;
    this.worker = null;
    this.fail(new KernelStopped(why));
    await worker?.terminate();
  }

  private running(): Worker {
    if (this.worker) return this.worker;
    const { url, execArgv } = workerUrl();
    const worker = new Worker(url, { workerData: { module: this.module, role: this.role }, execArgv });
    this.worker = worker;
    worker.on('message', (reply: KernelReply) => this.worker === worker && this.hear(reply));
    const ended = (why: string) => {
      if (this.worker !== worker) return;
      this.worker = null;
      this.fail(new KernelStopped(why));
    };
    worker.on('error', (error) =>
      ended(`The thread crashed: ${String(error instanceof Error ? error.message : error)}.`),
    );
    worker.on('messageerror', (error) => ended(`The thread sent what cannot be read: ${error.message}.`));
    worker.on('exit', (code) => ended(`The thread ended (code ${code}).`));
    return worker;
  }

  private hear(reply: KernelReply): void {
    const { waiting } = this;
    if (reply.type === 'ready') this.converter = reply.converter ?? null;
    if (!waiting || reply.type === 'ready') return;
    if (reply.type === 'progress' || reply.type === 'geometry') return waiting.onNews(reply);
    this.waiting = null;
    if (reply.type === 'refused') waiting.reject(new KernelRefusal(reply.sentence, reply.cause));
    else if (reply.type === 'failed') waiting.reject(new KernelFault(reply.message, reply.broken));
    else waiting.resolve(reply);
  }

  private fail(error: Error): void {
    const { waiting } = this;
    this.waiting = null;
    waiting?.reject(error);
  }
}
