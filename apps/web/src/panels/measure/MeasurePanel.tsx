import { useCallback } from 'react';
import { BookmarkPlus, X } from 'lucide-react';
import { useStore } from 'zustand';
import { KIND_NAMES, type Picked } from '../../state/selection-store.ts';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { Choice } from '../../ui/Choice.tsx';
import { IconButton } from '../../ui/IconButton.tsx';
import { figuresOfOne, whereOf } from '../../workspace/measuring/figures.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { WallTab } from './WallTab.tsx';
import { DisplaySystem } from './DisplaySystem.tsx';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { InterferenceList } from './InterferenceList.tsx';
import { HoleTable } from './HoleTable.tsx';
import { LedgerList } from './LedgerList.tsx';
import { setPickFilter } from '../../workspace/picking/pick-filter.ts';
import { FiguresOfPicked } from './Figures.tsx';

const TABS = [
  ['figures', 'Figures'],
  ['holes', 'Holes'],
  ['clashes', 'Clashes'],
  ['wall', 'Wall'],
] as const;

/** What is picked and what it measures, the ledger; the holes; what clashes. */
export function MeasurePanel() {
  const ws = useWorkspace();
  const tab = useStore(ws.measure, (s) => s.tab);
  return (
    <div className="flex min-h-0 flex-1 flex-col overflow-y-auto pt-2.5 pb-4">
      <h2 className="px-3 font-semibold">Measure</h2>
      <div className="mt-1.5 px-3">
        <Choice label="Measure" value={tab} options={TABS} onChange={(tab) => ws.measure.setState({ tab })} />
      </div>
      {tab !== 'clashes' && <DisplaySystem />}
      {tab === 'figures' && <FiguresTab />}
      {tab === 'holes' && <HoleTable />}
      {tab === 'clashes' && <InterferenceList />}
      {tab === 'wall' && <WallTab />}
    </div>
  );
}

function FiguresTab() {
  const ws = useWorkspace();
  const picked = useStore(ws.selection, (s) => s.picked);
  const names = useSeen(
    useCallback(
      (now) =>
        picked.slice(0, LISTED).map((item) => ({ name: nameOf(now, item), where: whereOf(now, item) })),
      [picked],
    ),
  );
  const filter = useStore(ws.filter, (s) => s.filter);
  return (
    <>
      <div className="mt-1.5 flex items-center gap-2 px-3 text-[13px]">
        <span className="text-soft">A click takes</span>
        <Choice
          label="A click takes"
          value={filter === 'point' ? 'point' : 'all'}
          options={[
            ['all', 'Things'],
            ['point', 'Points'],
          ]}
          onChange={(f) => setPickFilter(ws, f)}
        />
        <span
          className="text-soft"
          title="Steps through all that may be meant under the cursor: midpoint, centre, quadrant, intersection …"
        >
          next: <kbd className="figures rounded border border-line px-1 text-[12px]">R</kbd>
        </span>
      </div>
      {!picked.length && (
        <p className="mt-2 px-3 text-[13px] text-soft">
          Click a hole, face, edge, point or component for its figures. Hold Shift or Ctrl and click a second
          one for what lies between the two, more for the chain from one to the next.
        </p>
      )}
      {picked.length > 0 && (
        <ol aria-label="What is measured" className="mt-1.5 px-3">
          {picked.slice(0, LISTED).map((item, i) => (
            <li
              key={`${i} ${item.kind} ${item.component} ${item.index}`}
              className="flex items-center gap-2 border-b border-line py-0.5"
            >
              <span className="figures w-5 text-right text-[12.5px] text-soft">{i + 1}</span>
              <span className="min-w-0 flex-1 text-[13px]">
                {names[i].name} <span className="text-soft">of {names[i].where}</span>
              </span>
              <IconButton
                icon={X}
                label={`Take back ${i + 1}, ${names[i].name}`}
                className="size-6 text-soft"
                onClick={() => ws.selection.getState().toggle(item)}
              />
            </li>
          ))}
          {picked.length > LISTED && (
            <li className="py-0.5 text-[13px] text-soft">and {picked.length - LISTED} more</li>
          )}
        </ol>
      )}
      {picked.length > 0 && (
        <section aria-label="Figures" className="mt-1">
          <FiguresOfPicked items={picked} />
          <div className="px-3">
            <button
              type="button"
              className="inline-flex items-center gap-1.5 rounded bg-blue px-2.5 py-0.5 text-[13px] font-medium text-on-blue hover:opacity-90"
              onClick={() => runCommand(ws, commandById('keep-figure'))}
            >
              <BookmarkPlus size={15} strokeWidth={1.6} aria-hidden />
              Keep <kbd className="figures rounded border border-on-blue/40 px-1 text-[12px]">J</kbd>
            </button>
          </div>
        </section>
      )}
      <LedgerList />
    </>
  );
}

/** Things beyond this are counted. */
const LISTED = 20;

/** What it is to an engineer, where that is more than its kind; of components nothing is summed up for it. */
const nameOf = (ws: Workspace, item: Picked): string =>
  (item.kind === 'component' || item.kind === 'body' ? null : figuresOfOne(ws, item)?.title) ??
  KIND_NAMES[item.kind];
