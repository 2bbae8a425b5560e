import { useQueryClient } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { api } from '../api/api.ts';
import { toast } from '../ui/notices.ts';
import { FailedCard, ProgressCard } from './ProgressCard.tsx';
import { useJobs } from './use-jobs.ts';
import { useUploads } from './use-uploads.ts';

const STAGES: Record<string, string> = {
  waiting: 'Waiting for its turn',
  'no room': 'Waiting for room on the server’s disk',
  starting: 'Starting',
  reading: 'Reading the file',
  transferring: 'Building the shapes',
  meshing: 'Meshing and measuring',
  done: 'Done',
};

/** What is on its way to the shelf, a card each: uploads, conversions that failed, and those under way. */
export function useTransfers() {
  const queries = useQueryClient();
  const { jobs, forget } = useJobs();
  const { uploads, start, remove } = useUploads();
  const running = jobs.filter((j) => j.state === 'queued' || j.state === 'running');
  const dismiss = (id: string) => {
    forget(id);
    void api
      .cancelJob(id)
      .catch((e: Error) => toast(e.message, { id: 'wanted' }))
      .then(() => queries.invalidateQueries({ queryKey: ['models'] }));
  };
  const cards: { key: string; card: ReactNode }[] = [
    ...uploads.map((u) => ({
      key: u.key,
      card: u.error ? (
        <FailedCard name={u.name} reason={u.error} onDismiss={() => remove(u.key)} />
      ) : (
        <ProgressCard
          name={u.name}
          stage="Uploading"
          share={u.share}
          onCancel={() => {
            u.abort();
            remove(u.key);
          }}
        />
      ),
    })),
    ...jobs
      .filter((j) => j.state === 'failed')
      .map((j) => ({
        key: j.id,
        card: (
          <FailedCard
            name={j.subject}
            reason={j.problem?.detail ?? 'The conversion failed.'}
            onDismiss={() => dismiss(j.id)}
          />
        ),
      })),
    ...running.map((j) => ({
      key: j.id,
      card: (
        <ProgressCard
          name={j.subject}
          stage={STAGES[j.stage] ?? j.stage}
          share={j.progress}
          onCancel={() => dismiss(j.id)}
        />
      ),
    })),
  ];
  return { cards, start, busy: running.length + uploads.length > 0 };
}
