import os from 'node:os';
import { Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { compileKernel } from '@bathyscope/kernel';
import { Turns } from '../process/turns.ts';
import { Answerer, PieceGaveUp, type Piece } from './answerer.ts';
import { KernelFault, KernelStopped, KernelThread } from './kernel-thread.ts';

/** Bytes. A thread whose heap grew past this is replaced: the kernel's memory never shrinks. */
const RECYCLE_HEAP = 1_000_000_000;
const THREADS = Math.max(1, Math.min(4, os.availableParallelism()));

interface Waiting {
  piece: Piece;
  asker: string;
  tries: number;
  resolve: (answer: unknown) => void;
  reject: (error: Error) => void;
}

interface Seat {
  thread: KernelThread;
  busy: boolean;
  held: Set<string>;
}

/**
 * Threads that answer questions, so that none waits for a conversion and few for each other. Loading shapes and answering
 * is one unit of work in one thread; what is given up takes that thread with it, and nobody else's question.
 */
@Injectable()
export class QuestionThreads extends Answerer implements OnModuleInit, OnApplicationShutdown {
  private readonly logger = new Logger('Questions');
  private seats: Seat[] = [];
  private waiting: Waiting[] = [];
  private readonly turns = new Turns();

  async onModuleInit(): Promise<void> {
    const module = await compileKernel();
    this.seats = Array.from({ length: THREADS }, () => ({
      thread: new KernelThread(module, 'questions'),
      busy: false,
      held: new Set<string>(),
    }));
  }

  warm(): void {
    this.seats[0].thread.warm();
  }

  async onApplicationShutdown(): Promise<void> {
    await Promise.all(this.seats.map((s) => s.thread.stop()));
  }

  ask(piece: Piece): Promise<unknown> {
    return new Promise((resolve, reject) => {
      if (piece.signal.aborted) return reject(piece.signal.reason as Error);
      // Of a signal that outlives many pieces none stays listening.
      const settled = new AbortController();
      const entry: Waiting = {
        piece,
        asker: piece.asker,
        tries: 0,
        resolve: (answer) => (settled.abort(), resolve(answer)),
        reject: (error) => (settled.abort(), reject(error)),
      };
      piece.signal.addEventListener(
        'abort',
        () => {
          // What runs already runs to its end: its answer costs less than a new thread.
          if (!this.waiting.includes(entry)) return;
          this.waiting = this.waiting.filter((w) => w !== entry);
          entry.reject(piece.signal.reason as Error);
        },
        { once: true, signal: settled.signal },
      );
      this.waiting.push(entry);
      this.next();
    });
  }

  private next(): void {
    const free = this.seats.filter((s) => !s.busy);
    if (!free.length || !this.waiting.length) return;
    const first = Math.max(...this.waiting.map((w) => w.piece.priority));
    const entry = this.turns.next(this.waiting.filter((w) => w.piece.priority === first))!;
    this.waiting = this.waiting.filter((w) => w !== entry);
    const missing = (s: Seat) => missingOf(entry.piece, s).length;
    const seat = free.reduce((best, s) => (missing(s) < missing(best) ? s : best));
    seat.busy = true;
    const end = this.turns.begin(entry.asker);
    void this.work(seat, entry).finally(() => {
      end();
      seat.busy = false;
      this.next();
    });
    this.next();
  }

  /** Never rejects: how it went is told to whoever asked. */
  private async work(seat: Seat, entry: Waiting): Promise<void> {
    const { piece } = entry;
    let late = false;
    let timer: NodeJS.Timeout | undefined;
    try {
      const shapes = await Promise.all(
        missingOf(piece, seat).map(async (hash): Promise<[string, Uint8Array]> => [hash, await piece.shapeOf(hash)]),
      );
      timer = setTimeout(() => {
        late = true;
        void seat.thread.stop();
      }, piece.limit);
      const end = await seat.thread.ask({ type: 'ask', name: piece.name, asked: piece.asked, places: piece.places, shapes });
      if (end.type !== 'answered') throw new KernelStopped('The thread answered something else.');
      seat.held = new Set(end.held);
      entry.resolve(end.answer);
      if (end.heap > RECYCLE_HEAP) await this.replace(seat);
    } catch (error) {
      if (error instanceof KernelStopped || (error instanceof KernelFault && error.broken)) await this.replace(seat);
      this.settle(entry, error, late);
    } finally {
      clearTimeout(timer);
    }
  }

  private settle(entry: Waiting, error: unknown, late: boolean): void {
    if (late) return entry.reject(new PieceGaveUp('it took too long'));
    // A crash may come from what the thread had done before; a fresh one is asked once.
    if (error instanceof KernelStopped && entry.tries++ === 0) return void this.waiting.push(entry);
    if (error instanceof KernelStopped || error instanceof KernelFault) {
      this.logger.warn(`${entry.piece.name}: ${error.message}`);
      return entry.reject(new PieceGaveUp('the kernel could not do it'));
    }
    entry.reject(error instanceof Error ? error : new Error(String(error)));
  }

  private async replace(seat: Seat): Promise<void> {
    seat.held = new Set();
    await seat.thread.stop();
  }
}

const missingOf = ({ places }: Piece, { held }: Seat): string[] =>
  [...new Set(Object.values(places).map((p) => p.hash))].filter((h) => !held.has(h));
