import os from 'node:os';
import { Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { compileKernel } from '@bathyscope/kernel';
import { Turns } from '../process/turns.ts';
import { Answerer, SubtaskFailed, type Subtask } from './answerer.ts';
import { KernelFault, KernelStopped, KernelThread } from './kernel-thread.ts';

/** Bytes. A thread whose heap grew past this is replaced: the kernel's memory never shrinks. */
const RECYCLE_HEAP = 1_000_000_000;
const THREADS = Math.max(1, Math.min(4, os.availableParallelism()));

interface Waiting {
  subtask: Subtask;
  asker: string;
  tries: number;
  resolve: (answer: unknown) => void;
  reject: (error: Error) => void;
}

interface ThreadSlot {
  thread: KernelThread;
  busy: boolean;
  held: Set<string>;
}

/**
 * Threads that answer questions, so that none waits for a conversion and few for each other.
 * Loading shapes and answering is one unit of work in one thread; what is given up takes that thread with it,
 * and nobody else's question.
 */
@Injectable()
export class QuestionThreads extends Answerer implements OnModuleInit, OnApplicationShutdown {
  private readonly logger = new Logger('Questions');
  private slots: ThreadSlot[] = [];
  private waiting: Waiting[] = [];
  private readonly turns = new Turns();

  async onModuleInit(): Promise<void> {
    const module = await compileKernel();
    this.slots = Array.from({ length: THREADS }, () => ({
      thread: new KernelThread(module, 'questions'),
      busy: false,
      held: new Set<string>(),
    }));
  }

  warm(): void {
    this.slots[0].thread.warm();
  }

  async onApplicationShutdown(): Promise<void> {
    await Promise.all(this.slots.map((s) => s.thread.stop()));
  }

  ask(subtask: Subtask): Promise<unknown> {
    return new Promise((resolve, reject) => {
      if (subtask.signal.aborted) return reject(subtask.signal.reason as Error);
      // Of a signal that outlives many subtasks none stays listening.
      const settled = new AbortController();
      const entry: Waiting = {
        subtask,
        asker: subtask.asker,
        tries: 0,
        resolve: (answer) => (settled.abort(), resolve(answer)),
        reject: (error) => (settled.abort(), reject(error)),
      };
      subtask.signal.addEventListener(
        'abort',
        () => {
          // What runs already runs to its end: its answer costs less than a new thread.
          if (!this.waiting.includes(entry)) return;
          this.waiting = this.waiting.filter((w) => w !== entry);
          entry.reject(subtask.signal.reason as Error);
        },
        { once: true, signal: settled.signal },
      );
      this.waiting.push(entry);
      this.next();
    });
  }

  private next(): void {
    const free = this.slots.filter((s) => !s.busy);
    if (!free.length || !this.waiting.length) return;
    const first = Math.max(...this.waiting.map((w) => w.subtask.priority));
    const entry = this.turns.next(this.waiting.filter((w) => w.subtask.priority === first))!;
    this.waiting = this.waiting.filter((w) => w !== entry);
    const missing = (s: ThreadSlot) => missingOf(entry.subtask, s).length;
    const slot = free.reduce((best, s) => (missing(s) < missing(best) ? s : best));
    slot.busy = true;
    const end = this.turns.begin(entry.asker);
    void this.work(slot, entry).finally(() => {
      end();
      slot.busy = false;
      this.next();
    });
    this.next();
  }

  /** Never rejects: how it went is told to whoever asked. */
  private async work(slot: ThreadSlot, entry: Waiting): Promise<void> {
    const { subtask } = entry;
    let late = false;
    let timer: NodeJS.Timeout | undefined;
    try {
      const shapes = await Promise.all(
        missingOf(subtask, slot).map(async (hash): Promise<[string, Uint8Array]> => [
          hash,
          await subtask.shapeOf(hash),
        ]),
      );
      timer = setTimeout(() => {
        late = true;
        void slot.thread.stop();
      }, subtask.limit);
      const end = await slot.thread.ask({
        type: 'ask',
        name: subtask.name,
        asked: subtask.asked,
        places: subtask.places,
        shapes,
      });
      if (end.type !== 'answered') throw new KernelStopped('The thread answered something else.');
      slot.held = new Set(end.held);
      entry.resolve(end.answer);
      if (end.heap > RECYCLE_HEAP) await this.replace(slot);
    } catch (error) {
      if (error instanceof KernelStopped || (error instanceof KernelFault && error.broken))
        await this.replace(slot);
      this.settle(entry, error, late);
    } finally {
      clearTimeout(timer);
    }
  }

  private settle(entry: Waiting, error: unknown, late: boolean): void {
    if (late) return entry.reject(new SubtaskFailed('it took too long'));
    // A crash may come from what the thread had done before; a fresh one is asked once.
    if (error instanceof KernelStopped && entry.tries++ === 0) return void this.waiting.push(entry);
    if (error instanceof KernelStopped || error instanceof KernelFault) {
      this.logger.warn(`${entry.subtask.name}: ${error.message}`);
      return entry.reject(new SubtaskFailed('the kernel could not do it'));
    }
    entry.reject(error instanceof Error ? error : new Error(String(error)));
  }

  private async replace(slot: ThreadSlot): Promise<void> {
    slot.held = new Set();
    await slot.thread.stop();
  }
}

const missingOf = ({ places }: Subtask, { held }: ThreadSlot): string[] =>
  [...new Set(Object.values(places).map((p) => p.hash))].filter((h) => !held.has(h));
