import { Turns } from '../process/turns.ts';
import { ProblemException } from '../problems/problem.ts';

/**
 * How many uploads may receive at once, and wait: by one profile (or address, where there is none), and in
 * all. Too many that wait are refused.
 */
export interface SlotLimits {
  each: number;
  /** Of those that bring something. */
  all: number;
  /** With those that only trickle. */
  open: number;
  waitingEach: number;
  waiting: number;
}

export const SLOTS: SlotLimits = { each: 8, all: 32, open: 256, waitingEach: 32, waiting: 512 };

/**
 * Bytes a second below which an upload takes nobody's place, for it costs next to nothing; and ms over which
 * that is looked at.
 */
const TRICKLE = 4096;
const LOOK = 5000;

/** The slot of one upload. */
export interface Slot {
  /** Bytes have come. */
  moved(bytes: number): void;
  /** Saying it twice is once. */
  release(): void;
}

interface Waiting {
  asker: string;
  start: () => void;
}

/**
 * Lets only so many uploads receive at once; those who wait take turns, and wait for
 * nobody who only trickles.
 */
export class UploadSlots {
  private readonly limits: SlotLimits;
  private readonly turns = new Turns();
  private readonly look: number;
  /** Those that are open, and whether each counts as one that brings something. */
  private readonly open = new Map<object, boolean>();
  private waiting: Waiting[] = [];

  constructor(limits: SlotLimits = SLOTS, look = LOOK) {
    this.limits = limits;
    this.look = look;
  }

  /**
   * Waits for a slot.
   * @throws ProblemException (429) when too many wait; AbortError when the sender goes away
   */
  async take(sender: string, signal: AbortSignal): Promise<Slot> {
    signal.throwIfAborted();
    if (!this.free(sender)) await this.queue(sender, signal);
    const end = this.turns.begin(sender);
    const slot = {};
    this.open.set(slot, true);
    let came = 0;
    const timer = setInterval(() => {
      this.open.set(slot, came * 1000 >= TRICKLE * this.look);
      came = 0;
      this.next();
    }, this.look);
    return {
      moved: (bytes) => (came += bytes),
      release: () => {
        if (!this.open.delete(slot)) return;
        clearInterval(timer);
        end();
        this.next();
      },
    };
  }

  private free(sender: string): boolean {
    const bringing = [...this.open.values()].filter(Boolean).length;
    return (
      bringing < this.limits.all &&
      this.open.size < this.limits.open &&
      this.turns.of(sender) < this.limits.each
    );
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
