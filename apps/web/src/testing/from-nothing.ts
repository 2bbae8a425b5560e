import type { Derived, DerivedBy } from '../workspace/derived/derived.ts';
import type { Workspace } from '../workspace/workspace.ts';

/**
 * The same workspace as if nothing had been computed yet: what is derived is computed from the stores
 * whenever it is asked for.
 */
export function fromNothing(ws: Workspace): Workspace {
  const of = <K, T>(value: Derived<T> | DerivedBy<K, T>, key?: K): T =>
    'from' in value ? value.from(fresh) : value.by(fresh, key!);
  const fresh: Workspace = { ...ws, derived: { of, work: ws.derived.work } as Workspace['derived'] };
  return fresh;
}
