import type { Reference } from '@bathyscope/core/references';
import { statusText } from '../../workspace/measuring/references.ts';
import { useSeen } from '../use-derived.ts';

/** Says of kept things that the model has changed under them; nothing where all were found as they were. */
export function Status({ of }: { of: readonly Reference[] }) {
  const text = useSeen((ws) => statusText(ws, of));
  return text ? (
    <span
      className="shrink-0 rounded-full bg-amber-wash px-1.5 text-[12px] text-amber"
      title="The model has changed since this was kept. What is probably found looks a little different; what is lost is not there any more, or there are several that it could be."
    >
      {text}
    </span>
  ) : null;
}
