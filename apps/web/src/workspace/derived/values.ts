import { computed, effect, type ReadonlySignal } from '@preact/signals-core';
import type { Value, ValueBy } from './value.ts';
import { Work } from './work.ts';

/**
 * The derived values of one workspace: each computed once for all who read it, and again when
 * what it read has changed.
 */
export class DerivedValues<W extends object> {
  /** The workspace as derived values read it. */
  readonly seen: W;
  /** What takes its time. */
  readonly work = new Work<W>((value) => this.of(value));
  private readonly single = new Map<Value<W, unknown>, ReadonlySignal<unknown>>();
  private readonly many = new Map<ValueBy<W, never, unknown>, Keyed>();

  /** @param stores all of the workspace but these values themselves */
  constructor(stores: Omit<W, 'derived'>) {
    this.seen = { ...seenStores(stores), derived: this } as unknown as W;
  }

  of<T>(value: Value<W, T>): T;
  of<K, T>(value: ValueBy<W, K, T>, key: K): T;
  of<K, T>(value: Value<W, T> | ValueBy<W, K, T>, key?: K): T {
    return 'from' in value ? this.signalOf(value).value : this.signalBy(value, key!).value;
  }

  /** For who wants to hear when it changes. */
  signalOf<T>(value: Value<W, T>): ReadonlySignal<T> {
    let found = this.single.get(value);
    if (!found) this.single.set(value, (found = computed(() => value.from(this.seen))));
    return found as ReadonlySignal<T>;
  }

  signalBy<K, T>(value: ValueBy<W, K, T>, key: K): ReadonlySignal<T> {
    let keyed = this.many.get(value as ValueBy<W, never, unknown>);
    if (!keyed) this.many.set(value as ValueBy<W, never, unknown>, (keyed = new Keyed()));
    let found = keyed.get(key);
    if (!found) keyed.set(key, (found = computed(() => value.by(this.seen, key))));
    return found as ReadonlySignal<T>;
  }

  /**
   * Does what follows from the stores and other values now, and again whenever something that it read has
   * changed. @returns what ends it
   */
  follow(run: (ws: W) => void): () => void {
    return effect(() => run(this.seen));
  }

  /** Those that were asked for. */
  names(): string[] {
    return [...this.single.keys(), ...this.many.keys()].map(({ name }) => name);
  }
}

class Keyed {
  private readonly named = new Map<unknown, ReadonlySignal<unknown>>();
  private readonly ofObjects = new WeakMap<object, ReadonlySignal<unknown>>();

  get(key: unknown): ReadonlySignal<unknown> | undefined {
    return isObject(key) ? this.ofObjects.get(key) : this.named.get(key);
  }

  set(key: unknown, value: ReadonlySignal<unknown>): void {
    if (isObject(key)) this.ofObjects.set(key, value);
    else this.named.set(key, value);
  }
}

const isObject = (key: unknown): key is object => typeof key === 'object' && key !== null;

const seenStores = (stores: object): object =>
  Object.fromEntries(
    Object.entries(stores).map(([name, field]: [string, object]) => [
      name,
      typeof field === 'object' && 'seen' in field ? field.seen : field,
    ]),
  );
