import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { toast } from '../ui/notices.ts';
import { useEvents } from './use-events.ts';
import { useWorkspace } from './use-workspace.ts';

/** Says in the workspace when a file that was put on the shelf is ready, or could not be read. */
export function useArrivals(): void {
  const navigate = useNavigate();
  const events = useEvents();
  const open = useWorkspace().source.model;
  useEffect(() => {
    return events.follow({
      onJob: ({ id, kind, state, subject, modelId, problem }) => {
        if (kind !== 'convert') return;
        // Of a new revision of what is open its own notice tells.
        if (state === 'done' && modelId && modelId !== open)
          toast(`“${subject}” is on the shelf.`, {
            id: `arrived ${id}`,
            action: { label: 'Open', onClick: () => void navigate(`/models/${modelId}`) },
          });
        if (state === 'failed')
          toast.error(`“${subject}” could not be read: ${problem?.detail ?? 'the conversion failed.'}`, {
            id: `arrived ${id}`,
          });
      },
    });
  }, [navigate, events, open]);
}
