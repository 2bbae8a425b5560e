/** Askers whose turns are remembered. */
const REMEMBERED = 1000;

/** What waits, and for whom. */
interface Waits {
  asker: string;
}

/**
 * Whose turn it is among those who wait: of whoever has the least under way, and of these whoever was served
 * longest ago. So one with forty requests makes another wait for what is under way, and not for the forty.
 */
export class Turns {
  private readonly running = new Map<string, number>();
  /** Askers in the order in which they were served last; the oldest are forgotten. */
  private readonly served = new Map<string, number>();
  private count = 0;

  /** How much of an asker is under way. */
  of(asker: string): number {
    return this.running.get(asker) ?? 0;
  }

  /** The next of those who wait, in the order in which they came; undefined where none does. */
  next<W extends Waits>(waiting: readonly W[]): W | undefined {
    return waiting.reduce<W | undefined>(
      (best, w) => (best && !this.isBefore(w.asker, best.asker) ? best : w),
      undefined,
    );
  }

  /** Something of an asker begins. @returns what says that it has ended; saying it twice is once */
  begin(asker: string): () => void {
    this.running.set(asker, this.of(asker) + 1);
    this.served.delete(asker);
    this.served.set(asker, ++this.count);
    if (this.served.size > REMEMBERED) this.served.delete(this.served.keys().next().value!);
    let ended = false;
    return () => {
      if (ended) return;
      ended = true;
      const left = this.of(asker) - 1;
      if (left > 0) this.running.set(asker, left);
      else this.running.delete(asker);
    };
  }

  private isBefore(a: string, b: string): boolean {
    const [less, more] = [this.of(a), this.of(b)];
    return less !== more ? less < more : (this.served.get(a) ?? 0) < (this.served.get(b) ?? 0);
  }
}
