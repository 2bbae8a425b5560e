import { effect, signal, type Signal } from '@preact/signals-core';
import type { HeavyValue, Input, Value } from './value.ts';

type Last<V> = { key: string; value: V | null } | null;

/** What is worked out for one workspace, and for how many who want it. */
export class Work<W> {
  private readonly read: <T>(value: Value<W, T>) => T;
  private readonly found = new Map<object, Signal<Last<unknown>>>();
  private readonly wanted = new Map<object, { count: number; end: () => void }>();

  constructor(read: <T>(value: Value<W, T>) => T) {
    this.read = read;
  }

  /** What came of the newest input that was worked out. */
  last<I extends Input, V>(value: HeavyValue<W, I, V>): Last<V> {
    return this.signalOf(value).value;
  }

  private signalOf<I extends Input, V>(value: HeavyValue<W, I, V>): Signal<Last<V>> {
    let found = this.found.get(value);
    if (!found) this.found.set(value, (found = signal<Last<unknown>>(null)));
    return found as Signal<Last<V>>;
  }

  /**
   * Has it worked out from now on, whenever it is of something else. @returns what ends that; the work is
   * given up with the last who wanted it
   */
  want<I extends Input, V>(ws: W, value: HeavyValue<W, I, V>): () => void {
    const there = this.wanted.get(value) ?? { count: 0, end: this.start(ws, value) };
    there.count++;
    this.wanted.set(value, there);
    let left = false;
    return () => {
      if (left) return;
      left = true;
      if (--there.count) return;
      this.wanted.delete(value);
      there.end();
    };
  }

  /** Has what failed worked out once more. */
  again(value: object): void {
    const last = this.found.get(value);
    if (last?.peek()?.value === null) last.value = null;
  }

  private start<I extends Input, V>(ws: W, value: HeavyValue<W, I, V>): () => void {
    const last = this.signalOf(value);
    let under: { key: string; giveUp: () => void } | null = null;
    const end = () => {
      under?.giveUp();
      under = null;
    };
    const off = effect(() => {
      const input = this.read(value.input);
      if (input && under?.key === input.key) return;
      end();
      if (!input || last.value?.key === input.key) return;
      let giveUp = () => clearTimeout(timer);
      const timer = setTimeout(() => {
        giveUp = value.begin(ws, input, (found) => {
          if (under !== job) return;
          under = null;
          last.value = { key: input.key, value: found };
        });
      }, value.rest);
      const job = { key: input.key, giveUp: () => giveUp() };
      under = job;
    });
    return () => (off(), end());
  }
}
