import type { JobView, ModelEvent, RecordEvent } from '@bathyscope/contracts';
import { underBase } from './under-base.ts';

interface Follower {
  /** Of which model the records are followed. */
  model?: string;
  onJob?: (job: JobView) => void;
  onRecord?: (event: RecordEvent) => unknown;
  onModel?: (event: ModelEvent) => void;
  /** The line stands, also after it was lost: something may have been missed. */
  onOpen?: () => void;
  /** Which build of the page the server has. */
  onVersion?: (page: string) => void;
}

/** Hears of what changes on the server: one line for all of a page, for a browser has few to one host. */
export interface EventLine {
  /** @returns what ends it */
  follow(follower: Follower): () => void;
}

export function createEventLine(): EventLine {
  const followers = new Set<Follower>();
  let source: EventSource | null = null;
  let address = '';
  let waiting: ReturnType<typeof setTimeout> | undefined;
  const open = () => {
    const models = [...new Set([...followers].flatMap(({ model }) => model ?? []))].sort();
    const wanted = underBase(`/api/events${models.length ? `?models=${models.join(',')}` : ''}`);
    if (!followers.size) {
      source?.close();
      source = null;
      return;
    }
    if (source && wanted === address) return;
    source?.close();
    address = wanted;
    const line = (source = new EventSource(wanted));
    const on = <T>(type: string, tell: (follower: Follower, data: T) => void) =>
      line.addEventListener(type, (e) => {
        const data = JSON.parse((e as MessageEvent<string>).data) as T;
        followers.forEach((follower) => tell(follower, data));
      });
    on<JobView>('job', (f, job) => f.onJob?.(job));
    on<RecordEvent>('record', (f, event) => f.model === event.model && f.onRecord?.(event));
    on<ModelEvent>('model', (f, event) => f.onModel?.(event));
    on<{ page: string }>('version', (f, { page }) => f.onVersion?.(page));
    line.onopen = () => followers.forEach((f) => f.onOpen?.());
  };
  // Who comes and goes at once is counted once.
  const later = () => {
    clearTimeout(waiting);
    waiting = setTimeout(open);
  };
  return {
    follow: (follower) => {
      followers.add(follower);
      if (source?.readyState === EventSource.OPEN) follower.onOpen?.();
      later();
      return () => {
        followers.delete(follower);
        later();
      };
    },
  };
}
