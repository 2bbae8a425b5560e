import { useQueryClient } from '@tanstack/react-query';
import type { JobView } from '@bathyscope/contracts';
import { useEffect, useState } from 'react';
import { api } from '../api/api.ts';
import { useEvents } from '../panels/use-events.ts';

/**
 * Waiting, running and failed jobs, kept current by server-sent events; survives leaving the
 * page and a server restart.
 */
export function useJobs(): { jobs: JobView[]; forget: (id: string) => void } {
  const [jobs, setJobs] = useState<ReadonlyMap<string, JobView>>(new Map());
  const queries = useQueryClient();
  const events = useEvents();
  useEffect(() => {
    // Checks are followed where they were asked for.
    const isShown = ({ kind }: JobView) => kind === 'convert';
    const put = (job: JobView) =>
      setJobs((old) => {
        const next = new Map(old);
        if (job.state === 'done' || job.state === 'cancelled' || !isShown(job)) next.delete(job.id);
        else next.set(job.id, job);
        return next;
      });
    // Also after a lost connection: what happened meanwhile is asked for.
    const opened = () => {
      void api.jobs().then(
        (list) => setJobs(new Map(list.filter(isShown).map((j) => [j.id, j]))),
        () => {},
      );
      void queries.invalidateQueries({ queryKey: ['models'] });
    };
    return events.follow({
      onJob: (job) => {
        put(job);
        if (job.state !== 'running') void queries.invalidateQueries({ queryKey: ['models'] });
      },
      onModel: () => void queries.invalidateQueries({ queryKey: ['models'] }),
      onOpen: opened,
    });
  }, [queries, events]);
  const forget = (id: string) => setJobs((old) => new Map([...old].filter(([key]) => key !== id)));
  return { jobs: [...jobs.values()], forget };
}
