import { messageOf } from '@bathyscope/core/tables';
import type { FallbackProps } from 'react-error-boundary';

/** Stands where a part of the page met an error that nobody expected. */
export function Fallback({ error, resetErrorBoundary }: FallbackProps) {
  return (
    <div role="alert" className="grid size-full place-items-center p-8 text-center">
      <div className="max-w-md">
        <p className="font-semibold">
          Something went wrong in this part of the page. What was kept is safe, and the model is as it was.
        </p>
        <p className="mt-2 text-[12.5px] text-soft">{messageOf(error)}</p>
        <button
          type="button"
          onClick={resetErrorBoundary}
          className="mt-3 rounded border border-border bg-panel px-4 py-2 font-medium"
        >
          Show it again
        </button>
      </div>
    </div>
  );
}
