import type { Workspace } from '../workspace.ts';
import type { HeavyValue, Input, Known, Value, ValueBy } from './value.ts';

/*
 * What follows from the stores. A derived value is computed from what it reads, and what it reads is noted
 * while it is read: nobody lists it and nobody can forget it. It is computed once for all who read it, kept
 * while what it read stays, and gone with its workspace.
 */

export type Derived<T> = Value<Workspace, T>;
export type DerivedBy<K, T> = ValueBy<Workspace, K, T>;

/**
 * @param from reads the stores of the workspace that it is given, and other derived values of it; it writes
 * nothing and waits for nothing
 */
export const derived = <T>(name: string, from: (ws: Workspace) => T): Derived<T> => ({ name, from });

export const derivedBy = <K, T>(name: string, by: (ws: Workspace, key: K) => T): DerivedBy<K, T> => ({
  name,
  by,
});

/**
 * A value that takes its time: worked out elsewhere while someone wants it (`ws.derived.work.want`). What is
 * known of other inputs than those of now is never shown as if it were of these.
 * @param input null where there is nothing to do @param rest ms that the input rests before it is begun
 * @param begin starts the work. `take` hears what came of it, null where nothing did.
 * @returns what gives it up
 */
export function heavy<I extends Input, V>(
  name: string,
  input: (ws: Workspace) => I | null,
  rest: number,
  begin: (ws: Workspace, input: I, take: (value: V | null) => void) => () => void,
): HeavyValue<Workspace, I, V> {
  const of = derived(`the input of ${name}`, input);
  const value: HeavyValue<Workspace, I, V> = {
    name,
    input: of,
    rest,
    begin,
    known: derived(name, (ws): Known<V> => {
      const now = ws.derived.of(of);
      const found = ws.derived.work.last(value);
      if (!now) return { state: 'nothing to do' };
      if (found?.key !== now.key) return { state: 'pending' };
      return found.value === null ? { state: 'failed' } : { state: 'ready', value: found.value };
    }),
  };
  return value;
}
