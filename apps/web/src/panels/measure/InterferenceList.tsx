import { acceptedClash } from '@bathyscope/contracts/records';
import { boxDiagonal } from '@bathyscope/core/math';
import { formatQuantity, type UnitStyle } from '@bathyscope/core/units';
import { memo, useEffect } from 'react';
import { useStore } from 'zustand';
import type { FoundInterference } from '../../state/interference-store.ts';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { boxOf, shownName } from '../../workspace/shown/components.ts';
import { acceptedOf, resumeInterferences } from '../../workspace/measuring/interferences.ts';
import { added, changeRecords, removed } from '../../workspace/keeping/records.ts';
import { componentReferences } from '../../workspace/measuring/references.ts';
import { isGhost } from '../../workspace/shown/shown.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { useUnits } from '../use-units.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';

/** Pairs beyond this are counted. */
const LISTED = 200;

/** What clashes with what: found by a check, shown one by one, said to be meant so. */
export function InterferenceList() {
  const ws = useWorkspace();
  const { of, found, pairs, done, running, error } = useStore(ws.interference);
  const components = useStore(ws.model, (s) => s.components.length);
  useEffect(() => void resumeInterferences(ws), [ws]);
  const clashes = found.filter((f) => 'failed' in f || f.clash);
  const meant = useSeen((now) => clashes.filter((f) => acceptedOf(now, f)));
  if (components < 2) return null;
  const open = clashes.filter((f) => !meant.includes(f));
  const touching = found.length - clashes.length;
  return (
    <section aria-label="Clashes" className="mt-3 border-t border-line px-3 pt-2">
      <div className="flex items-center justify-between gap-2">
        <h3 className="text-[13px] font-semibold">Clashes</h3>
        <button
          type="button"
          className="rounded border border-border bg-paper px-2 py-0.5 text-[13px] hover:bg-hover"
          onClick={() => runCommand(ws, commandById(running ? 'clashes-stop' : 'clashes'))}
        >
          {running ? 'Stop' : of ? 'Find again' : 'Find clashes'}
        </button>
      </div>
      {!of && (
        <p className="mt-1 text-[13px] text-soft">
          Finds which of the components that are shown share material, how deep and where. Pick one and use
          “Find clashes with neighbours” for less.
        </p>
      )}
      {of && (
        <p role="status" className="mt-1 text-[13px] text-soft">
          {running
            ? pairs
              ? `${done} of ${pairs} pairs, of ${of} …`
              : `Looking at ${of} …`
            : summary(of, done, pairs, open.length, meant.length, touching)}
        </p>
      )}
      {running && (
        <div
          role="progressbar"
          aria-label="Pairs checked"
          aria-valuenow={done}
          aria-valuemin={0}
          aria-valuemax={pairs}
          className="mt-1 h-1 bg-line"
        >
          <div className="h-full bg-blue" style={{ width: `${(100 * done) / Math.max(1, pairs)}%` }} />
        </div>
      )}
      {error && (
        <p role="alert" className="mt-1 text-[13px] text-red">
          The check came to an end at {done} of {pairs} pairs: {error}
        </p>
      )}
      <ul aria-label="Clashes found">
        {[...open, ...meant].slice(0, LISTED).map((f) => (
          <InterferenceRow key={`${f.a} ${f.b}`} interference={f} accepted={meant.includes(f)} />
        ))}
      </ul>
      {clashes.length > LISTED && <p className="text-[13px] text-soft">and {clashes.length - LISTED} more</p>}
    </section>
  );
}

function summary(
  of: string,
  done: number,
  pairs: number,
  open: number,
  meant: number,
  touching: number,
): string {
  const found = [
    open === 1 ? 'One clash' : open ? `${open} clashes` : meant ? 'No other clash' : 'No clash',
    meant && `${meant} meant so`,
    touching && `${touching} ${touching === 1 ? 'pair touches' : 'pairs touch'}`,
  ].filter(Boolean);
  return `${found.join(', ')}, of ${of}${done < pairs ? `; stopped at ${done} of ${pairs} pairs` : ''}.`;
}

function figures(f: FoundInterference, unit: UnitStyle): string {
  if ('failed' in f) return `not known: ${f.failed}`;
  const { depth, volume, within } = f.clash!;
  const say = (value: number, kind: 'length' | 'volume') =>
    Object.values(formatQuantity(value, kind, unit))
      .join('\u00a0')
      .trim();
  return `${say(depth, 'length')} deep, ${within ? 'about ' : ''}${say(volume, 'volume')}`;
}

const InterferenceRow = memo(function InterferenceRow({
  interference,
  accepted,
}: {
  interference: FoundInterference;
  accepted: boolean;
}) {
  const ws = useWorkspace();
  const unit = useUnits();
  const shown = useStore(ws.interference, (s) => s.shown === interference);
  const [small, large] = useSeen((now) => bySize(now, interference).map((path) => shownName(now, path)));
  const name = `${small} in ${large}`;
  return (
    <li className="border-b border-line py-1 last:border-0">
      <button
        type="button"
        title="Show these two alone"
        aria-current={shown}
        className="block w-full rounded text-left hover:bg-hover aria-[current=true]:text-magenta"
        onClick={() => showAlone(ws, interference)}
      >
        <span className="block text-[13px] break-words">
          {small} <span className="text-soft">in</span> {large}
        </span>
      </button>
      <div className="flex flex-wrap items-center justify-between gap-x-2">
        <span className={`figures text-[12.5px] ${accepted ? 'text-soft' : 'text-red'}`}>
          {figures(interference, unit)}
        </span>
        <label className="flex items-center gap-1 text-[12.5px] text-soft">
          <input
            type="checkbox"
            className="accent-blue"
            checked={accepted}
            onChange={() => toggleAccepted(ws, interference, name)}
            aria-label={`${name} is meant so`}
          />
          meant so
        </label>
      </div>
    </li>
  );
});

/** The smaller of two first: the screw is in the housing, not the housing in the screw. */
function bySize(ws: Workspace, { a, b }: FoundInterference): [string, string] {
  return boxDiagonal(boxOf(ws, [a])) <= boxDiagonal(boxOf(ws, [b])) ? [a, b] : [b, a];
}

/** The larger as a ghost, the smaller in view, all else hidden; the place is marked. */
function showAlone(ws: Workspace, interference: FoundInterference): void {
  const [small, large] = bySize(ws, interference);
  const pick = (...paths: string[]) =>
    ws.selection.getState().pick(paths.map((component) => ({ kind: 'component', component, index: 0 })));
  pick(small, large);
  runCommand(ws, commandById('isolate'));
  if (!isGhost(ws, large)) {
    pick(large);
    runCommand(ws, commandById('ghost'));
  }
  pick(small);
  runCommand(ws, commandById('fit-picked'));
  pick();
  ws.interference.setState({ shown: interference });
}

function toggleAccepted(ws: Workspace, interference: FoundInterference, name: string): void {
  const known = acceptedOf(ws, interference);
  const [a, b] = componentReferences(ws, [interference.a, interference.b]);
  changeRecords(ws, known ? `“${name}” is no longer meant so` : `“${name}” is meant so`, [
    known ? removed(ws, acceptedClash, known) : added(ws, acceptedClash, { a, b }),
  ]);
}
