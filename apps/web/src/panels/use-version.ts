import { useEffect } from 'react';
import { toast } from '../ui/notices.ts';
import { useEvents } from './use-events.ts';

/** The name of the entry that this page was loaded from; it changes with what is in it. */
const ownEntry = (): string =>
  document.querySelector<HTMLScriptElement>('script[type=module][src]')?.src.split('/').at(-1) ?? '';

/**
 * Says when the server has another version of the page, and offers to load it: what waits
 * to be stored goes along.
 */
export function useVersion(): void {
  const events = useEvents();
  useEffect(() => {
    let said = '';
    return events.follow({
      onVersion: (page) => {
        if (!page || page === ownEntry() || page === said) return;
        said = page;
        toast(
          'Bathyscope was updated. This page is of another version and works on; load it anew when it suits you.',
          {
            id: 'version',
            duration: Infinity,
            action: { label: 'Load anew', onClick: () => location.reload() },
          },
        );
      },
    });
  }, [events]);
}
