import { useQuery } from '@tanstack/react-query';
import type { PickFacts } from '@bathyscope/core';
import { useMemo } from 'react';
import { useStore } from 'zustand';
import type { Picked } from '../../state/selection-store.ts';
import { distanceFacts, distanceOf } from '../../workspace/figures.ts';
import { useWorkspace } from '../use-workspace.ts';

export interface LeastDistanceNow {
  facts: PickFacts | null;
  waiting: boolean;
  refusal: string | null;
  error: string | null;
}

/** The least distance of two picked things: at once where a cut is concerned, else when the kernel has answered. */
export function useLeastDistance(items: readonly Picked[]): LeastDistanceNow {
  const ws = useWorkspace();
  const cuts = useStore(ws.cut);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- distanceOf reads the cuts
  const found = useMemo(() => distanceOf(ws, items), [ws, items, cuts]);
  const ask = 'ask' in found ? found.ask : null;
  const { data, error } = useQuery({
    queryKey: ['distance', ws.model.getState().detail?.id, ws.model.getState().detail?.revision, ask],
    queryFn: () => ws.source.ask('distance', ask!),
    enabled: ask !== null,
    staleTime: Infinity,
    retry: false,
  });
  return {
    facts: 'facts' in found ? found.facts : data ? distanceFacts(data, { kind: 'exact' }) : null,
    waiting: ask !== null && !data && !error,
    refusal: 'refusal' in found ? found.refusal : null,
    error: error?.message ?? null,
  };
}
