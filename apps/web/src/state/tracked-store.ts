import { batch, signal, type Signal } from '@preact/signals-core';
import {
  createStore as createPlain,
  type Mutate,
  type StateCreator,
  type StoreApi,
  type StoreMutatorIdentifier,
} from 'zustand/vanilla';

/** A store that can also be read so that it is seen what was read. */
export type Tracked<T, S = StoreApi<T>> = S & {
  /**
   * The same store as derived values read it: each field of its state that is read is noted by who is being
   * computed. It cannot be written.
   */
  readonly seen: S;
};

/** Like zustand's. */
export const createStore =
  <T extends object>() =>
  <Mos extends [StoreMutatorIdentifier, unknown][] = []>(
    make: StateCreator<T, [], Mos>,
  ): Tracked<T, Mutate<StoreApi<T>, Mos>> => {
    const store = createPlain<T>()(make);
    return Object.assign(store, { seen: { ...store, getState: noting(store), setState: refuse } });
  };

const refuse = (): never => {
  throw new Error('A derived value reads stores and writes none.');
};

/** Gives the state as an object of which each field that is read is a signal's. */
function noting<T extends object>(store: StoreApi<T>): () => T {
  const fields = new Map<PropertyKey, Signal<unknown>>();
  const now = (key: PropertyKey): unknown => store.getState()[key as keyof T];
  // The first to hear of a change: whoever hears of it later reads values that know of it.
  store.subscribe((state) =>
    batch(() => {
      for (const [key, field] of fields) field.value = state[key as keyof T];
    }),
  );
  const state: T = new Proxy({} as T, {
    get: (_, key) => {
      let field = fields.get(key);
      if (!field) fields.set(key, (field = signal(now(key))));
      return field.value;
    },
    has: (_, key) => key in store.getState(),
    ownKeys: () => Reflect.ownKeys(store.getState()),
    getOwnPropertyDescriptor: (_, key) =>
      key in store.getState()
        ? { configurable: true, enumerable: true, value: state[key as keyof T] }
        : undefined,
  });
  return () => state;
}
