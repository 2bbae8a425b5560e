/*
 * Tables whose names come from outside: a part may be called "constructor", and
 * "__proto__" is a name as any other.
 */

/** Whether something is a table by name, and no list. */
export const isValues = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && !Array.isArray(v);

/** What a table holds under a name; nothing that every object has. */
export const ownOf = <T>(table: Readonly<Record<string, T>>, name: string): T | undefined =>
  Object.hasOwn(table, name) ? table[name] : undefined;

/** The table with other values under some names; without those that are undefined. */
export function withOwn<T>(
  table: Readonly<Record<string, T>>,
  changes: Iterable<readonly [name: string, value: T | undefined]>,
): Record<string, T> {
  const next = new Map(Object.entries(table));
  for (const [name, value] of changes)
    if (value === undefined) next.delete(name);
    else next.set(name, value);
  return Object.fromEntries(next);
}
