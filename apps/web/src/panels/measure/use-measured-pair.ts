import type { PairFigures, PickFacts } from '@bathyscope/core';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { useStore } from 'zustand';
import type { Picked } from '../../state/selection-store.ts';
import { distanceFacts, distanceOf } from '../../workspace/figures.ts';
import { pairOf } from '../../workspace/measured.ts';
import { useWorkspace } from '../use-workspace.ts';

export interface MeasuredPair {
  pair: PairFigures | null;
  /** The least distance: at once where a cut is concerned, else when the kernel has answered. */
  least: PickFacts | null;
  waiting: boolean;
  refusal: string | null;
  error: string | null;
}

/** What two picked things measure. Found when the picks or the cuts change, not while the view turns. */
export function useMeasuredPair(items: readonly Picked[]): MeasuredPair {
  const ws = useWorkspace();
  const cuts = useStore(ws.cut);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- both read the cuts
  const { pair, found } = useMemo(() => ({ pair: pairOf(ws, items), found: distanceOf(ws, items) }), [ws, items, cuts]);
  const ask = 'ask' in found ? found.ask : null;
  const { data, error } = useQuery({
    queryKey: ['distance', ws.model.getState().detail?.id, ws.model.getState().detail?.revision, ask],
    queryFn: () => ws.source.ask('distance', ask!),
    enabled: ask !== null,
    staleTime: Infinity,
    retry: false,
  });
  return {
    pair,
    least: 'facts' in found ? found.facts : data ? distanceFacts(data, { kind: 'exact' }) : null,
    waiting: ask !== null && !data && !error,
    refusal: 'refusal' in found ? found.refusal : null,
    error: error?.message ?? null,
  };
}
