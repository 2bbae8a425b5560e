import { Turns } from '../process/turns.ts';
import { ProblemException } from '../problems/problem.ts';

/** How many uploads may receive at once, and wait: by one profile (or address, where there is none), and in all. Too many that wait are refused. */
export interface SlotLimits {
  each: number;
  all: number;
  waitingEach: number;
  waiting: number;
}

export const SLOTS: SlotLimits = { each: 8, all: 32, waitingEach: 32, waiting: 512 };

interface Waiting {
  asker: string;
  start: () => void;
}

/** Lets only so many uploads receive at once; those who wait take turns. */
export class UploadSlots {
  private readonly limits: SlotLimits;
  private readonly turns = new Turns();
  private receiving = 0;
  private waiting: Waiting[] = [];

  constructor(limits: SlotLimits = SLOTS) {
    this.limits = limits;
  }

  /**
   * Waits for a slot. @returns what gives it back
   * @throws ProblemException (429) when too many wait; AbortError when the sender goes away
   */
  async take(sender: string, signal: AbortSignal): Promise<() => void> {
    signal.throwIfAborted();
    if (!this.free(sender)) await this.queue(sender, signal);
    this.receiving++;
    const end = this.turns.begin(sender);
    let given = false;
    return () => {
      if (given) return;
      given = true;
      this.receiving--;
      end();
      this.next();
    };
  }

  private free(sender: string): boolean {
    return this.receiving < this.limits.all && this.turns.of(sender) < this.limits.each;
  }

  private queue(sender: string, signal: AbortSignal): Promise<void> {
    const mine = this.waiting.filter((w) => w.asker === sender).length;
    if (mine >= this.limits.waitingEach || this.waiting.length >= this.limits.waiting)
      throw new ProblemException(
        429,
        'Too many uploads',
        'The server is receiving as many files as it can. Send this one again in a moment.',
      );
    return new Promise((resolve, reject) => {
      const entry: Waiting = { asker: sender, start: resolve };
      this.waiting.push(entry);
      signal.addEventListener(
        'abort',
        () => {
          this.waiting = this.waiting.filter((w) => w !== entry);
          reject(signal.reason as Error);
        },
        { once: true },
      );
    });
  }

  private next(): void {
    const entry = this.turns.next(this.waiting.filter((w) => this.free(w.asker)));
    if (!entry) return;
    this.waiting = this.waiting.filter((w) => w !== entry);
    entry.start();
  }
}
