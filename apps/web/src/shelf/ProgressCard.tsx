import { TriangleAlert, X } from 'lucide-react';
import { IconButton } from '../ui/IconButton.tsx';

/** A file on its way: uploading, waiting or being converted. */
export function ProgressCard({
  name,
  stage,
  share,
  onCancel,
}: {
  name: string;
  stage: string;
  share: number;
  onCancel: () => void;
}) {
  const percent = Math.round(share * 100);
  return (
    <div className="flex h-full flex-col rounded-lg border border-dashed border-border bg-panel p-3">
      <div className="flex items-start gap-2">
        <span className="min-w-0 flex-1 font-semibold break-words">{name}</span>
        <IconButton icon={X} label={`Cancel ${name}`} onClick={onCancel} />
      </div>
      <div className="flex-1" />
      <p className="mt-6 flex justify-between text-soft">
        <span>{stage}</span>
        <span className="figures">{percent} %</span>
      </p>
      <div
        role="progressbar"
        aria-label={`${name}: ${stage}`}
        aria-valuenow={percent}
        aria-valuemin={0}
        aria-valuemax={100}
        className="mt-1 h-2 overflow-hidden rounded bg-well"
      >
        <div className="h-full bg-blue transition-[width]" style={{ width: `${percent}%` }} />
      </div>
    </div>
  );
}

/** A file that could not be opened, with the reason. */
export function FailedCard({
  name,
  reason,
  onDismiss,
}: {
  name: string;
  reason: string;
  onDismiss: () => void;
}) {
  return (
    <div role="alert" className="h-full overflow-y-auto rounded-lg border border-red bg-panel p-3">
      <div className="flex items-start gap-2">
        <TriangleAlert size={18} className="mt-0.5 shrink-0 text-red" aria-hidden />
        <span className="min-w-0 flex-1 font-semibold break-words">{name}</span>
        <IconButton icon={X} label={`Dismiss ${name}`} onClick={onDismiss} />
      </div>
      <p className="mt-2">{reason}</p>
    </div>
  );
}
