import { computed, effect, type ReadonlySignal } from '@preact/signals-core';
import { useCallback, useMemo, useSyncExternalStore } from 'react';
import type { Derived, DerivedBy } from '../workspace/derived/derived.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { useWorkspace } from './use-workspace.ts';

function useSignal<T>(of: ReadonlySignal<T>): T {
  const subscribe = useCallback(
    (tell: () => void) => {
      let first = true;
      return effect(() => {
        try {
          void of.value;
        } catch {
          // Whoever draws it meets the same error.
        }
        if (!first) tell();
        first = false;
      });
    },
    [of],
  );
  return useSyncExternalStore(subscribe, () => of.peek());
}

/** A derived value as it is now; what draws it is drawn again when it changes. */
export function useDerived<T>(value: Derived<T>): T;
export function useDerived<K, T>(value: DerivedBy<K, T>, key: K): T;
export function useDerived<K, T>(value: Derived<T> | DerivedBy<K, T>, key?: K): T {
  const { derived } = useWorkspace();
  return useSignal('from' in value ? derived.signalOf(value) : derived.signalBy(value, key!));
}

/**
 * What one component alone reads of the workspace; it is drawn again when any of that changes. @param read
 * from `useCallback` where it takes time: else it is read whenever the component is drawn
 */
export function useSeen<T>(read: (ws: Workspace) => T): T {
  const { derived } = useWorkspace();
  return useSignal(useMemo(() => computed(() => read(derived.seen)), [derived, read]));
}
