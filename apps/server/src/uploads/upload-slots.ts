import { ProblemException } from '../problems/problem.ts';

/** How many uploads may receive at once: by one profile (or address, where there is none), and in all. More wait; too many that wait are refused. */
export interface SlotLimits {
  each: number;
  all: number;
  waiting: number;
}

export const SLOTS: SlotLimits = { each: 8, all: 32, waiting: 64 };

interface Waiting {
  sender: string;
  start: () => void;
}

/** Lets only so many uploads receive at once. */
export class UploadSlots {
  private readonly limits: SlotLimits;
  private readonly running = new Map<string, number>();
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
    this.running.set(sender, (this.running.get(sender) ?? 0) + 1);
    let given = false;
    return () => {
      if (given) return;
      given = true;
      const left = this.running.get(sender)! - 1;
      if (left) this.running.set(sender, left);
      else this.running.delete(sender);
      this.next();
    };
  }

  private free(sender: string): boolean {
    const all = [...this.running.values()].reduce((sum, n) => sum + n, 0);
    return all < this.limits.all && (this.running.get(sender) ?? 0) < this.limits.each;
  }

  private queue(sender: string, signal: AbortSignal): Promise<void> {
    if (this.waiting.length >= this.limits.waiting)
      throw new ProblemException(
        429,
        'Too many uploads',
        'The server is receiving as many files as it can. Send this one again in a moment.',
      );
    return new Promise((resolve, reject) => {
      const entry: Waiting = { sender, start: resolve };
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
    const entry = this.waiting.find((w) => this.free(w.sender));
    if (!entry) return;
    this.waiting = this.waiting.filter((w) => w !== entry);
    entry.start();
  }
}
