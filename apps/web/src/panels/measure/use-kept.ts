import { useQueries, useQuery, type UseQueryOptions } from '@tanstack/react-query';
import type { KeptFigure } from '@bathyscope/core/ledger';
import { allFigures, type AllFigures } from '../../workspace/measuring/all-figures.ts';
import { itemsOf } from '../../workspace/keeping/ledger.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';

/** A kept figure as it is `now`; computed when it is shown, and again when the model or its cuts change. */
function query(now: Workspace, ws: Workspace, kept: KeptFigure): UseQueryOptions<AllFigures | null> {
  const { detail } = now.model.getState();
  const items = itemsOf(now, kept);
  const ofCut = kept.of.some((r) => 'plane' in r);
  return {
    queryKey: [
      'kept',
      detail?.id,
      detail?.revision,
      kept.of,
      items === null,
      ofCut ? now.section.getState().planes : null,
      ofCut ? cutsNow(now) : 0,
    ],
    queryFn: () => (items ? allFigures(ws, items) : null),
    staleTime: ofCut ? 0 : Infinity,
    retry: false,
  };
}

/**
 * Cuts that are made and that the kernel has answered: what is measured on them is found
 * again when either changes.
 */
const cutsNow = (ws: Workspace): number[] => {
  const { results, exact } = ws.cut.getState();
  return [
    results.reduce((n, m) => n + m.cuts.length, 0),
    [...exact.values()].reduce((n, answers) => n + answers.size, 0),
  ];
};

export function useKeptFigure(kept: KeptFigure) {
  const ws = useWorkspace();
  return useQuery(useSeen((now) => query(now, ws, kept)));
}

export function useKeptFigures(kept: readonly KeptFigure[]) {
  const ws = useWorkspace();
  return useQueries({ queries: useSeen((now) => kept.map((k) => query(now, ws, k))) });
}
