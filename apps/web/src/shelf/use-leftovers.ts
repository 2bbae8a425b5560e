import { useEffect } from 'react';
import { api } from '../api/api.ts';
import { useEvents } from '../panels/use-events.ts';
import { sendLeftovers } from '../workspace/keeping/keep-records.ts';
import { browserOutbox } from '../workspace/keeping/unsent.ts';

/**
 * Sends what was kept of models while the server was away, and whose pages are closed, as
 * soon as it can be reached.
 */
export function useLeftovers(): void {
  const events = useEvents();
  useEffect(() => {
    const outbox = browserOutbox();
    // Where the browser keeps nothing, nothing is left over.
    return events.follow({ onOpen: () => void sendLeftovers(outbox, api.changeRecords).catch(() => {}) });
  }, [events]);
}
