/* What a derived value is; of whichever workspace W. */

/** A value that follows from the stores alone. */
export interface Value<W, T> {
  readonly name: string;
  readonly from: (ws: W) => T;
}

/** One that there is one of for each key: a string or number, or an object, with which it is gone. */
export interface ValueBy<W, K, T> {
  readonly name: string;
  readonly by: (ws: W, key: K) => T;
}

/** What is known of a value that takes its time; it is of what the stores say now. */
export type Known<V> =
  { state: 'nothing to do' } | { state: 'pending' } | { state: 'ready'; value: V } | { state: 'failed' };

export interface Input {
  /** Tells it from inputs that something else follows from. */
  readonly key: string;
}

/** A value that is worked out elsewhere, while someone wants it. */
export interface HeavyValue<W, I extends Input, V> {
  readonly name: string;
  /** What it is made of; null where there is nothing to do. */
  readonly input: Value<W, I | null>;
  readonly known: Value<W, Known<V>>;
  /** ms that its input rests before it is begun. */
  readonly rest: number;
  readonly begin: (ws: W, input: I, take: (value: V | null) => void) => () => void;
}
