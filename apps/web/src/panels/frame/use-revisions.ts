import type { RevisionView } from '@bathyscope/contracts';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { useNavigate } from 'react-router';
import { api } from '../../api/api.ts';
import { doubtText } from '../../ui/likeness-text.ts';
import { toast } from '../../ui/notices.ts';
import { useEvents } from '../use-events.ts';

/**
 * The list, asked for again when the model or one of its conversions changes; says when a newer one is there.
 */
export function useRevisions(model: string, name: string, shownNewest: number): RevisionView[] {
  const events = useEvents();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const key = ['revisions', model];
  const { data = [] } = useQuery({
    queryKey: key,
    queryFn: () => api.revisions(model),
    enabled: model !== '',
  });
  useEffect(() => {
    const again = () => void queries.invalidateQueries({ queryKey: ['revisions', model] });
    return events.follow({
      onModel: (event) => event.model === model && again(),
      onJob: (job) => job.kind === 'convert' && job.modelId === model && again(),
    });
  }, [events, queries, model]);
  const newest = data.find((r) => r.state === 'ready')?.revision ?? shownNewest;
  const told = useRef(0);
  useEffect(() => {
    // The page is never changed under its user: they say when.
    if (newest <= Math.max(shownNewest, told.current)) return;
    told.current = newest;
    toast.dismiss('revision-sent');
    const say = (doubt: string) =>
      toast(`Revision ${newest} is ready. ${doubt}`.trim(), {
        id: `revision ${model}`,
        duration: Infinity,
        action: { label: 'Open', onClick: () => void navigate(`/models/${model}/revisions/${newest}`) },
      });
    api.likeness(model, newest).then(
      (like) => say(doubtText(like, name)),
      () => say(''),
    );
  }, [newest, shownNewest, model, name, navigate]);
  return data;
}
