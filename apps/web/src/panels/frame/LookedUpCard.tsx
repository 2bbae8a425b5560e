import { X } from 'lucide-react';
import { useStore } from 'zustand';
import {
  accept,
  giveTo,
  pointAgain,
  putAsideHere,
  takeBack,
} from '../../commands/keep/looked-up-commands.ts';
import { IconButton } from '../../ui/IconButton.tsx';
import { toast } from '../../ui/notices.ts';
import { lookUp, type LookedUp } from '../../workspace/revisions/look-up.ts';
import { showNewPlace, showOldPlace } from '../../workspace/revisions/old-place.ts';
import type { Picked } from '../../state/selection-store.ts';
import { OverPane } from './OverPane.tsx';
import { pathOf, placeIn } from './SystemAxes.tsx';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';

const BUTTON =
  'rounded border border-border bg-paper px-1.5 text-[12.5px] hover:bg-hover disabled:opacity-50';

/**
 * What was kept on other revisions and is not plainly found here, to be gone through: shown where it was and
 * where it is, pointed to again, accepted or put aside.
 */
export function LookedUpCard() {
  const ws = useWorkspace();
  const open = useStore(ws.lookedUp, (s) => s.open);
  const others = useSeen((now) => (open ? lookUp(now) : []));
  if (!open) return null;
  const doubtful = others.filter((kept) => kept.status !== 'found' && !kept.aside);
  const aside = others.filter((kept) => kept.aside);
  const close = () => ws.lookedUp.setState({ open: false, old: null });
  return (
    <section
      aria-label="Kept on other revisions"
      className="absolute top-3 left-3 z-20 flex max-h-[70%] w-80 max-w-[calc(100%-1.5rem)] flex-col rounded-md border border-border bg-panel text-[14px] shadow-card"
    >
      <header className="flex items-start justify-between gap-2 px-2 pt-1.5">
        <div>
          <h2 className="font-semibold">Kept on other revisions</h2>
          <p className="text-[13px] text-soft">
            {doubtful.length
              ? `${doubtful.length} of ${others.length} to be looked at`
              : `All ${others.length} are settled.`}
          </p>
        </div>
        <IconButton icon={X} label="Close the list" className="text-soft" onClick={close} />
      </header>
      <ul className="mt-1 min-h-0 space-y-1 overflow-y-auto px-2 pb-2">
        {doubtful.map((kept) => (
          <Doubtful key={kept.id} kept={kept} />
        ))}
        {aside.map((kept) => (
          <li key={kept.id} className="flex items-center gap-2 text-[13px] text-soft">
            <span className="min-w-0 flex-1 truncate" title={kept.title}>
              {kept.title}
            </span>
            put aside
            <button type="button" className={BUTTON} onClick={() => takeBack(ws, kept)}>
              Take back
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Doubtful({ kept }: { kept: LookedUp }) {
  const ws = useWorkspace();
  const old = useStore(ws.lookedUp, (s) => s.old);
  const { title, status, madeOn, references } = kept;
  const open = references.filter((r) => r.became);
  return (
    <li
      aria-label={title}
      className={`rounded border p-1.5 ${old?.record === kept.id ? 'border-amber' : 'border-line'}`}
    >
      <p className="flex items-center gap-2">
        <span className="min-w-0 flex-1 truncate font-medium" title={title}>
          {title}
        </span>
        <span className="shrink-0 rounded-full bg-amber-wash px-1.5 text-[12px] text-amber">{status}</span>
      </p>
      <div className="mt-1 flex flex-wrap gap-1">
        {kept.was.length > 0 && (
          <button
            type="button"
            className={BUTTON}
            title={`Draws where it was on revision ${madeOn}`}
            onClick={() => void showOldPlace(ws, kept).catch(toast.failed)}
          >
            Where it was
          </button>
        )}
        {references.some((r) => r.became !== 'lost') && (
          <button
            type="button"
            className={BUTTON}
            title="Picks what it is thought to be"
            onClick={() => showNewPlace(ws, kept)}
          >
            Where it is
          </button>
        )}
        {status === 'probably found' && (
          <button
            type="button"
            className={BUTTON}
            title="It is this: keep it so on this revision"
            onClick={() => accept(ws, kept)}
          >
            Accept
          </button>
        )}
        <button
          type="button"
          className={BUTTON}
          title="Leave it out on this revision; on others it stays"
          onClick={() => putAsideHere(ws, kept)}
        >
          Put aside
        </button>
      </div>
      {open.map((reference, i) => {
        return (
          <Again
            key={i}
            what={reference.kind}
            status={reference.became!}
            onPoint={(item) => pointAgain(ws, kept, reference, item)}
          />
        );
      })}
      {status === 'lost' && !references.length && (
        <Again what="component" status="lost" onPoint={(item) => giveTo(ws, kept, item)} />
      )}
    </li>
  );
}

/** What is not there as it was, and the way to say what it is. */
function Again({ what, status, onPoint }: { what: string; status: string; onPoint: (item: Picked) => void }) {
  const ws = useWorkspace();
  const picked = useStore(ws.selection, (s) => s.picked);
  const fits = picked.length === 1 && picked[0].kind === what;
  return (
    <p className="mt-1 flex items-center justify-between gap-2 text-[12.5px] text-soft">
      <span>
        {what}: {status}
      </span>
      <button
        type="button"
        className={BUTTON}
        disabled={!fits}
        title={fits ? 'Put the picked thing in its place' : `Pick the ${what} that it is, then press this.`}
        onClick={() => onPoint(picked[0])}
      >
        It is what is picked
      </button>
    </p>
  );
}

/** Where something was on another revision, over every pane. */
export function OldPlace() {
  const ws = useWorkspace();
  const old = useStore(ws.lookedUp, (s) => s.old);
  const { panes } = useStore(ws.camera);
  if (!old) return null;
  return panes.map((pane) => {
    const place = placeIn(pane.camera, pane.size);
    const lines = old.lines.map((line) => line.map(place));
    const all = lines.flat();
    const top = all.reduce((a, b) => (b[1] < a[1] ? b : a), all[0]);
    return (
      <OverPane key={pane.id} rect={pane.rect}>
        <svg
          className="pointer-events-none absolute inset-0 size-full"
          role="img"
          aria-label={`Where it was on revision ${old.revision}`}
        >
          {lines.map((line, i) => (
            <g key={i} fill="none">
              <path d={pathOf(line)} stroke="var(--panel)" strokeWidth={5} opacity={0.85} />
              <path d={pathOf(line)} stroke="var(--amber)" strokeWidth={2.4} strokeDasharray="7 4" />
            </g>
          ))}
          {top && (
            <text
              x={top[0]}
              y={top[1] - 10}
              textAnchor="middle"
              fontSize={13}
              fill="var(--amber)"
              stroke="var(--panel)"
              strokeWidth={4}
              paintOrder="stroke"
            >
              on rev {old.revision}
            </text>
          )}
        </svg>
      </OverPane>
    );
  });
}
