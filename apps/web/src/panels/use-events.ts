import { createContext, useContext } from 'react';
import type { EventLine } from '../api/events.ts';

export const EventsContext = createContext<EventLine | null>(null);

/** What the server tells of changes; one line for the page. */
export function useEvents(): EventLine {
  const events = useContext(EventsContext);
  if (!events) throw new Error('The page hears of nothing.');
  return events;
}
