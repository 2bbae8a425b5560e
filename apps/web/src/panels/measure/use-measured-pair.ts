import type { PickFacts } from '@bathyscope/core/facts';
import type { PairFigures } from '@bathyscope/core/measure';
import { useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import type { Picked } from '../../state/selection-store.ts';
import { distanceFacts, distanceOf } from '../../workspace/measuring/figures.ts';
import { areWhole, interferenceFacts, interferencePair } from '../../workspace/measuring/interferences.ts';
import { pairOf } from '../../workspace/measuring/measured.ts';
import { useSeen } from '../use-derived.ts';
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
  const { pair, found } = useSeen(
    useCallback((now) => ({ pair: pairOf(now, items), found: distanceOf(now, items) }), [items]),
  );
  const ask = 'ask' in found ? found.ask : null;
  const fit = useFit(items);
  const { data, error } = useQuery({
    queryKey: ['distance', ws.model.getState().detail?.id, ws.model.getState().detail?.revision, ask],
    queryFn: () => ws.source.ask('distance', ask!),
    enabled: ask !== null && !fit.asked,
    staleTime: Infinity,
    retry: false,
  });
  if (fit.asked) return { pair, refusal: null, ...fit };
  return {
    pair,
    least: 'facts' in found ? found.facts : data ? distanceFacts(data, { kind: 'exact' }) : null,
    waiting: ask !== null && !data && !error,
    refusal: 'refusal' in found ? found.refusal : null,
    error: error?.message ?? null,
  };
}

/** How two whole components stand to each other: by their meshes at once, then exactly. */
function useFit(
  items: readonly Picked[],
): Pick<MeasuredPair, 'least' | 'waiting' | 'error'> & { asked: boolean } {
  const ws = useWorkspace();
  const { detail } = ws.model.getState();
  const asked = areWhole(ws, items);
  const pair = asked ? interferencePair(items) : null;
  const query = (how: 'mesh' | 'exact') => ({
    queryKey: ['interference', detail?.id, detail?.revision, pair, how],
    queryFn: async () => (await ws.source.ask('interference', { pairs: [pair!], how }))[0],
    enabled: asked,
    staleTime: Infinity,
    retry: false,
  });
  const [mesh, exact] = [useQuery(query('mesh')), useQuery(query('exact'))];
  const known = [exact.data, mesh.data].find((f) => f && !('failed' in f));
  const failed =
    exact.data && 'failed' in exact.data ? `There is no exact figure: ${exact.data.failed}.` : null;
  return {
    asked,
    least: known && !('failed' in known) ? interferenceFacts(known) : null,
    waiting: asked && !exact.data && !exact.error,
    error: failed ?? exact.error?.message ?? null,
  };
}
